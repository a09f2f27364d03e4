'use client';
import { useState } from 'react';
import { followLine, type MeasuredFall, meanPath, retimedLine } from '@/core/moves';
import { footageOf, type Project, type RevealShot, revealFrames } from '@/core/shot';
import { frameToSeconds } from '@/core/time';
import { takeFall } from '@/data/media';
import { Button, Note, NumberField, Working } from '@/ui/parts';
import { Slider } from '@/ui/slider';
import { AnchorField } from './anchor-field';
import { changeReveal, changeShot } from './use-line';

/** Changes the speed of the fall; the line's keys stay with what they were laid over. */
function setSpeed(shot: RevealShot, speed: number): void {
  changeReveal(shot.id, 'Change the speed of the fall', (mix) => {
    mix.line = [...retimedLine(mix.line, mix.lineLength, mix.fallSpeed, speed)];
    mix.fallSpeed = speed;
  });
}

/** What is typed or chosen of a reveal. */
export function RevealFields({ project, shot }: { project: Project; shot: RevealShot }) {
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const reveal = shot.mix;
  const follow = async () => {
    setDoing(0);
    setSaid('');
    try {
      const falls: MeasuredFall[] = [];
      let cover = 0;
      for (const [i, side] of (['before', 'after'] as const).entries()) {
        const fall = await takeFall(footageOf(project, shot[side].takeId), reveal.angle, (p) => setDoing((i + p) / 2));
        if (!fall) continue;
        falls.push(fall);
        cover = Math.max(cover, fall.cover);
        changeShot(shot.id, 'Meet the fall', (s) => {
          s[side].sync = fall.from;
        });
      }
      if (falls.length === 0) setSaid('Nothing clearly moves that way in either take. Turn the line, or set its keys by hand.');
      else {
        const [from, to] = revealFrames(project, shot);
        const lasts = falls.reduce((sum, f) => sum + f.to - f.from, 0) / falls.length;
        const runs = (frameToSeconds(to - from, project.frame.rate) * reveal.fallSpeed) / lasts;
        changeReveal(shot.id, 'Follow the fall', (mix) => {
          mix.lineLength = to - from;
          mix.line = [...followLine(meanPath(falls), to - from, mix.feather, runs)];
        });
        setSaid(
          `The line runs under the densest movement: ${Math.round(cover * 100)} % of all falling movement lies within a seventh of the frame of it.`,
        );
      }
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
    setDoing(null);
  };
  return (
    <div className="space-y-4">
      <AnchorField project={project} shot={shot} which="revealStart" label="Reveal begins" />
      <AnchorField project={project} shot={shot} which="revealEnd" label="Reveal ends" />
      {doing !== null ? (
        <Working text="Reading what falls" done={doing} />
      ) : (
        <Button className="w-full" onClick={() => void follow()}>
          Follow the fall
        </Button>
      )}
      {said && <Note level="unsure">{said}</Note>}
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Feather"
          unit="%"
          value={reveal.feather}
          min={0}
          max={100}
          onChange={(v) =>
            changeReveal(shot.id, 'Feather the line', (mix) => {
              mix.feather = v;
            })
          }
        />
        <NumberField
          label="Angle"
          unit="°"
          value={reveal.angle}
          min={-180}
          max={180}
          step={5}
          onChange={(v) =>
            changeReveal(shot.id, 'Turn the line', (mix) => {
              mix.angle = v;
            })
          }
        />
      </div>
      <div>
        <Slider
          label="Feather in per cent of the frame"
          value={reveal.feather}
          min={0}
          max={60}
          step={1}
          onChange={(v) =>
            changeReveal(shot.id, 'Feather the line', (mix) => {
              mix.feather = v;
            })
          }
        />
      </div>
      <div className="flex items-end gap-2">
        <div className="grow">
          <NumberField
            label="Speed of the fall"
            unit="×"
            value={reveal.fallSpeed}
            min={0.1}
            max={8}
            step={0.1}
            digits={2}
            onChange={(v) => setSpeed(shot, v)}
          />
        </div>
        <Button aria-pressed={reveal.fallSpeed === 2} onClick={() => setSpeed(shot, reveal.fallSpeed === 2 ? 1 : 2)}>
          ×2
        </Button>
      </div>
    </div>
  );
}
