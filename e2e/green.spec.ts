import { test } from '@playwright/test';
import { keyGreenAway } from './keyed';

test('a clip on green is keyed, and no frame of the film has green left or the performer torn', ({ page }) => keyGreenAway(page));
