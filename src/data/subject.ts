import { type Footage, footageKey, footageOf, type Project, type Take } from '@/core/document';
import { evened, type Facts } from '@/core/moves';
import { say } from '@/core/words';
import { derived } from './derived';
import type { Progress } from './jobs';
import { findPerson } from './person';
import { takePicture } from './pictures';
import { pointCourse } from './points';

type Course = Facts['subject']['course'][number][];

/** Seconds to either side over which a subject's size is evened out: an arm that moves must not make the room breathe. */
const EVEN = 0.6;
/** Looks a second at who is in the picture. */
const LOOKS = 2.5;
/** A person is there where the segmentation is at least so sure (of 255) of this share of the picture. */
const [SURE, LEAST] = [128, 0.004];

/** Where a person is in a take whatever its camera does, and how large: found by segmentation a few times a second. */
function peopleIn({ id, width, ...footage }: Footage, onProgress: Progress): Promise<Course> {
  const { from, to } = footage;
  return derived(`people:1:${footageKey({ id, width, ...footage })}`, async () => {
    const count = Math.max(2, Math.ceil((to - from) * LOOKS));
    const course: Course = [];
    for (let k = 0; k < count; k++) {
      const source = from + ((to - from) * (k + 0.5)) / count;
      const { sure, ...size } = await findPerson(await takePicture(id, width, source));
      let [n, x, y] = [0, 0, 0];
      for (let i = 0; i < sure.length; i++) {
        if (sure[i] < SURE) continue;
        n++;
        x += i % size.width;
        y += Math.floor(i / size.width);
      }
      const share = n / sure.length;
      if (share >= LEAST)
        course.push({ source, x: (100 * x) / n / size.width, y: (100 * y) / n / size.height, size: 100 * Math.sqrt(share) });
      onProgress((k + 1) / count);
    }
    return course;
  });
}

/** Marked points as a subject: of two the way between them tells its size, of one its own change of size. */
async function pointsIn(project: Project, take: Take, onProgress: Progress): Promise<Course | null> {
  const [first, second] = take.points ?? [];
  if (!first) return null;
  const { width, height } = footageOf(project, take.id);
  const one = await pointCourse(project, take, first, (p) => onProgress(second ? p / 2 : p));
  const place = ({ x, y }: { x: number; y: number }) => ({ x: (100 * x) / width, y: (100 * y) / height });
  if (!second) return one.times.map((source, i) => ({ source, ...place(one.points[i]), size: 20 * one.points[i].scale }));
  const other = await pointCourse(project, take, second, (p) => onProgress((1 + p) / 2));
  return one.times.flatMap((source, i) => {
    const [a, b] = [one.points[i], other.points[i]];
    if (!b || a.lost || b.lost) return [];
    return [
      {
        source,
        ...place({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }),
        size: Math.max(0.01, (100 * Math.hypot(b.x - a.x, b.y - a.y)) / height),
      },
    ];
  });
}

/** Rounded as it is kept, and thinned to what a size needs. */
const kept = (course: Course): Course =>
  evened(course, EVEN).map(({ source, x, y, size }) => ({
    source: Math.round(1000 * source) / 1000,
    x: Math.round(100 * x) / 100,
    y: Math.round(100 * y) / 100,
    size: Math.max(0.01, Math.round(1000 * size) / 1000),
  }));

/** The subject of a take: its first two marked points, its only one, or the person in it. */
export async function subjectOf(project: Project, take: Take, onProgress: Progress): Promise<Facts['subject']> {
  const how = say`Mark two points on the subject, one on each side of it, under Takes, Points, and find the subject again.`;
  const marked = await pointsIn(project, take, onProgress);
  if (marked && marked.length > 1) return { course: kept(marked), why: '' };
  const footage = footageOf(project, take.id);
  const people = await peopleIn(footage, onProgress).catch((error: Error) => error.message);
  if (typeof people === 'string') return { course: [], why: `${people} ${how}` };
  if (people.length < 0.6 * Math.max(2, (footage.to - footage.from) * LOOKS))
    return { course: [], why: say`Nobody was recognised through most of “${footage.name}”. ${how}` };
  return { course: kept(people), why: '' };
}
