import { emptyProject, type Media, type Project } from '../document';
import { constantBeatMap, type FrameRate } from '../time';

/** A file of ten seconds, 1280×720 at 25 frames a second; a song of ninety. */
export function stagedMedia(id: string, kind: Media['kind'] = 'video'): Media {
  return {
    id,
    kind,
    name: `${id}.mp4`,
    type: 'video/mp4',
    bytes: 1,
    duration: kind === 'audio' ? 90 : 10,
    width: 1280,
    height: 720,
    rotation: 0,
    codec: 'H.264',
    fps: 25,
    variableRate: false,
    hasSound: true,
    colour: { matrix: 'bt709', fullRange: false },
  };
}

/** Takes t1 to t3 of files m1 to m3, a cut-out, a clean plate, somebody's outline over time, and a song at a constant tempo. */
export function stagedProject(bpm = 112, rate: FrameRate = { num: 25, den: 1 }): Project {
  const made = emptyProject('p', 'Laundrette');
  made.frame.rate = rate;
  made.media = [
    ...['m1', 'm2', 'm3'].map((id) => stagedMedia(id)),
    stagedMedia('song', 'audio'),
    stagedMedia('cut-out', 'matte'),
    stagedMedia('empty', 'still'),
    stagedMedia('outline', 'silhouette'),
    stagedMedia('along', 'travelling matte'),
  ];
  made.takes = [1, 2, 3].map((n) => ({
    id: `t${n}`,
    mediaId: `m${n}`,
    plan: null,
    slot: null,
    number: n,
    tape: n,
    rating: 0,
    note: '',
    settings: { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' },
    filmedAt: null,
    live: null,
    part: null,
    correction: null,
  }));
  made.song = { mediaId: 'song', map: constantBeatMap(bpm, 0.25, 180), parts: [] };
  return made;
}
