import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Project, readProject } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import { MOVES } from '@/core/moves';
import { type SoundKind, VOICES } from '@/core/sounds';
import { stagedMedia, stagedMove, stagedProject } from '@/core/staged';
import { beatToSeconds, frameToSeconds, resolveAnchor } from '@/core/time';

const made: string[] = [];
vi.mock('./jobs', async (original) => ({
  ...(await original<object>()),
  soundFile: async (kind: SoundKind, seconds: number, seed: number) => {
    made.push(`${kind} ${seconds} ${seed}`);
    return new File(['x'], `${kind}-${seconds}`);
  },
  takeIn: async (file: File) => ({ ok: true, media: { ...stagedMedia(file.name, 'audio'), duration: 1 } }),
}));
vi.mock('./storage-lock', () => ({ takingIn: (work: () => Promise<unknown>) => work() }));

const { clipFor, layMadeSound, layMoveSounds, soundsOf } = await import('./move-sounds');
const { addShot } = await import('./shots');
const { addProject, settled, undo, useProject } = await import('./store');
const now = () => useProject.getState().project as Project;
const quiet = () => undefined;

beforeEach(async () => {
  await settled();
  made.length = 0;
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

/** The instant at which a laid sound is met, seconds of the song. */
function meets(project: Project, clip: Project['sound']['clips'][number], kind: SoundKind): number {
  const { rate } = project.frame;
  return frameToSeconds(resolveAnchor(beatMapOf(project), clip.start, rate), rate) + clip.nudge - clip.from + VOICES[kind].meets * clip.to;
}

describe('what is heard of a move', () => {
  it.each(MOVES.filter((m) => m.sounds).map((m) => m.kind))('of a %s meets its places to the sample, whatever its length', (kind) => {
    const project = stagedProject();
    const shot = stagedMove(
      project,
      kind,
      16,
      ['t1', 't2', 't3'].slice(0, Math.min(3, MOVES.find((m) => m.kind === kind)?.takes.max ?? 1)),
    );
    const whole = { ...project, shots: [shot] };
    const cues = soundsOf(whole, shot);
    expect(cues.length).toBeGreaterThan(0);
    for (const cue of cues) {
      const clip = clipFor(whole, shot, cue, 'song');
      const { rate } = whole.frame;
      const at = { beat: shot.start.beat + cue.at.beat, offset: shot.start.offset + cue.at.offset };
      const meant = frameToSeconds(resolveAnchor(beatMapOf(whole), at, rate), rate);
      expect(meets(whole, clip, cue.sound)).toBeCloseTo(meant, 9);
      expect(clip.to).toBeGreaterThan(clip.from);
    }
    const laid = { ...whole, sound: { ...whole.sound, clips: cues.map((cue) => clipFor(whole, shot, cue, 'song')) } };
    expect(readProject(JSON.parse(JSON.stringify(laid))).ok).toBe(true);
  });

  it('is laid in one step, made once for each sound and length, and not laid twice', async () => {
    const shot = stagedMove(now(), 'impact', 16, ['t1']);
    addShot(shot, []);
    expect(await layMoveSounds(shot.id, quiet)).toMatch(/sounds lie on the effects/);
    const count = now().sound.clips.length;
    expect(count).toBe(shot.move?.kind === 'impact' ? shot.move.hits.length : 0);
    expect(made).toEqual(['impact 0.5 1']);
    expect(await layMoveSounds(shot.id, quiet)).toBe('Its sounds lie there already.');
    expect(now().sound.clips).toHaveLength(count);
    undo();
    expect(now().sound.clips).toEqual([]);
  });

  it('what would begin before the song is cut there and still meets its place', () => {
    const project = stagedProject();
    const shot = stagedMove(project, 'dolly', 0, ['t1']);
    const clip = clipFor(project, shot, { sound: 'riser', at: { beat: 2, offset: 0 }, seconds: 4 }, 'song');
    expect(clip.from).toBeGreaterThan(2);
    const meant = frameToSeconds(resolveAnchor(beatMapOf(project), { beat: 2, offset: 0 }, project.frame.rate), project.frame.rate);
    expect(Math.abs(meets(project, clip, 'riser') - meant)).toBeLessThan(0.03);
  });
});

it('a sound of one’s own choice meets the playhead', async () => {
  useProject.setState({ playhead: 100 });
  expect(await layMadeSound('riser', 2, 5, quiet)).toBe('');
  expect(made).toEqual(['riser 2 5']);
  const [clip] = now().sound.clips;
  expect(meets(now(), clip, 'riser')).toBeCloseTo(4, 6);
  expect(beatToSeconds(beatMapOf(now()), 0)).toBeCloseTo(0.25, 6);
});
