'use client';
import { MOVES, type Move } from '@/core/moves';
import { say } from '@/core/words';
import { ChoiceSheet } from '@/views/shared';

const NUMBERS: Record<number, string> = { 1: 'one', 2: 'two', 3: 'three', 5: 'five', 9: 'nine' };

/** How many takes a move is made of, in words. */
function takesWords({ min, max }: (typeof MOVES)[number]['takes']): string {
  if (max === 1) return say`one take`;
  if (min === max) return say`${NUMBERS[min] ?? min} takes`;
  return max === min + 1
    ? say`${NUMBERS[min]} or ${NUMBERS[max]} takes`
    : max > 9
      ? say`${NUMBERS[min]} take${min > 1 ? 's' : ''} or more`
      : say`${NUMBERS[min]} to ${NUMBERS[max] ?? max} takes`;
}

/** Every move with what it does, those that fit the planned takes first; one press lays it. */
export function MoveSheet({ fitting, onChoose }: { fitting: readonly Move['kind'][]; onChoose: (kind: Move['kind']) => void }) {
  const planned = (kind: Move['kind']) => fitting.includes(kind);
  const choices = MOVES.toSorted((a, b) => Number(planned(b.kind)) - Number(planned(a.kind))).map(
    ({ kind, words: { name, about }, takes }) => ({
      kind,
      name,
      about,
      aside: planned(kind) ? say`as planned` : takesWords(takes),
    }),
  );
  return (
    <ChoiceSheet
      title={say`Moves`}
      button={say`All moves…`}
      asks={say`What should happen?`}
      choices={choices}
      pictures="moves"
      none={say`No move is called that or does that. Try fewer words.`}
      onChoose={onChoose}
    />
  );
}
