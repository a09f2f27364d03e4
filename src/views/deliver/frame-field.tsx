'use client';
import type { Project } from '@/core/document';
import { say } from '@/core/words';
import { edit } from '@/data/store';
import { NumberField } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';

/** Usual shapes and sizes; common practice. */
const SIZES = [
  ['1280 720', '16:9, 1280 × 720'],
  ['1920 1080', '16:9, 1920 × 1080'],
  ['3840 2160', '16:9, 3840 × 2160'],
  ['1080 1920', '9:16, 1080 × 1920'],
  ['720 1280', '9:16, 720 × 1280'],
  ['1080 1080', '1:1, 1080 × 1080'],
  ['1080 1350', '4:5, 1080 × 1350'],
  ['2560 1080', '21:9, 2560 × 1080'],
] as const;
const [LEAST, MOST] = [64, 4096];

const put = (width: number, height: number) =>
  edit(say`Change the frame`, (draft) => {
    draft.frame.width = 2 * Math.round(width / 2);
    draft.frame.height = 2 * Math.round(height / 2);
  });

/** The film's shape and size. Every shot fills the new frame from its middle; where places are kept, they are shares of the frame. */
export function FrameField({ project }: { project: Project }) {
  const { width, height } = project.frame;
  const own = `${width} ${height}`;
  const known = SIZES.some(([size]) => size === own);
  return (
    <div className="mb-3 grid max-w-md grid-cols-2 gap-2 sm:grid-cols-[1fr_7rem_7rem]">
      <div className="col-span-2 sm:col-span-1">
        <SelectField
          label={say`Frame`}
          value={own}
          options={known ? SIZES : [[own, `${width} × ${height}`], ...SIZES]}
          onChange={(size) => {
            const [w, h] = size.split(' ').map(Number);
            put(w, h);
          }}
        />
      </div>
      <NumberField label={say`Width`} unit="px" value={width} min={LEAST} max={MOST} step={2} onChange={(w) => put(w, height)} />
      <NumberField label={say`Height`} unit="px" value={height} min={LEAST} max={MOST} step={2} onChange={(h) => put(width, h)} />
    </div>
  );
}
