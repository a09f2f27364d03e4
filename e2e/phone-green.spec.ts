import { test } from '@playwright/test';
import { keyGreenAway } from './keyed';

test('on the phone: a clip on green is keyed, and no frame of the film has green left', ({ page }) => keyGreenAway(page));
