import { say } from '../../words';
import { BASIC_KIT, LOCAL_RULES, layer, place, type Recipe, type Region, ramp, slot, still, swing } from '../recipe';

/** Two to nine panels with gutters that open, close and swap on beats. Common practice. */
export const SPLIT_SCREENS: Recipe = {
  id: 'split screens',
  name: say`Split screens`,
  idea: say`The frame opens into two to nine panels that come, go and change places on the beat, hard-edged or soft.`,
  bars: 4,
  inputs: [
    { key: 'panels', label: say`Panels`, kind: 'number', unit: say`panels`, value: 3, min: 2, max: 9, step: 1 },
    { key: 'gutter', label: say`Gutter`, kind: 'number', unit: say`% of width`, value: 1.2, min: 0, max: 10, step: 0.1 },
  ],
  places: [place('Performer', 0, 2.6, { reach: 0.6 })],
  slots: (c) =>
    Array.from({ length: c.number('panels') }, (_, i) =>
      slot(
        `panel-${i + 1}`,
        say`Panel ${i + 1}`,
        say`${['Wide', say`Close on the hands`, say`Close on the face`, say`From the side`, 'Feet', say`The room`, say`From above`, say`From below`, 'Detail'][i]}: the whole passage to the song. Keep what matters in the middle third.`,
        say`All panels run at once: each needs the whole length.`,
        { place: c.places[0]?.id ?? null, rig: say`set-up ${i + 1}` },
      ),
    ),
  rules: () => [],
  marks: (c) => [
    say`Each panel is about ${Math.round(100 / columnsOf(c.number('panels')))} % of the frame wide: film for that shape, subject in the middle.`,
    say`Same light and white balance for all panels, or they will quarrel.`,
    say`Decide which way each panel looks: inwards.`,
  ],
  kit: () => [...BASIC_KIT, say`Drawing of the panels`],
  cautions: () => [LOCAL_RULES],
  builds: (c) => [
    { move: say`Split screen`, text: say`${c.number('panels')} panels opening one a beat, gutters of ${c.number('gutter')} %.` },
  ],
  checks: () => [say`A panel opens off its beat.`, say`A panel runs out of picture.`, say`The subject is cut by a gutter.`],
  dryRun: (c, u) => {
    const n = c.number('panels');
    const b = u * c.shot.bars * 4;
    const p = c.places[0];
    return still(
      Array.from({ length: n }, (_, i) => {
        const open = ramp(i, i + 0.6, b);
        const r = panel(i, n, c.number('gutter') / 100);
        const middle = (r.left + r.right) / 2;
        const half = ((r.right - r.left) / 2) * open;
        return layer(`panel-${i + 1}`, p ? [{ place: p.id, arms: swing(u + i * 0.07, c.shot.bars * 4), outfit: (i % 2) as 0 | 1 }] : [], {
          region: { ...r, left: middle - half, right: middle + half },
          shiftX: middle - 0.5,
          zoom: 1 + 0.25 * (i % 3),
        });
      }),
    );
  },
};

const columnsOf = (n: number) => (n <= 4 ? n : Math.ceil(Math.sqrt(n)));

function panel(i: number, n: number, gutter: number): Region {
  const columns = columnsOf(n);
  const rows = Math.ceil(n / columns);
  const [column, row] = [i % columns, Math.floor(i / columns)];
  const inRow = row === rows - 1 ? n - row * columns : columns;
  return {
    left: column / inRow + gutter / 2,
    right: (column + 1) / inRow - gutter / 2,
    top: row / rows + gutter / 2,
    bottom: (row + 1) / rows - gutter / 2,
  };
}
