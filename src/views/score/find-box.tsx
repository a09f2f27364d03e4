'use client';
import { Command } from 'cmdk';
import { useRef, useState } from 'react';
import { footageName, footageOf, type Project } from '@/core/document';
import { takesOf } from '@/core/edit';
import { beatMapOf, shotFrames } from '@/core/evaluate';
import { barAndBeat, barToBeat, beatToSeconds, nearestFrame } from '@/core/time';
import { say } from '@/core/words';
import { seek } from '@/data/playback';
import { useProject } from '@/data/store';
import { useKeys } from '@/ui/keymap';

interface Found {
  text: string;
  where: string;
  go: () => void;
}

/** Everything of a project that has a name and a place in the song. */
function places(project: Project): Found[] {
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const bar = (beat: number) => say`bar ${barAndBeat(map, beat).bar}`;
  const to = (beat: number) => () => seek(nearestFrame(beatToSeconds(map, beat), rate));
  const shots = project.shots.flatMap((shot) => {
    const go = () => {
      useProject.setState({ selectedShot: shot.id });
      seek(shotFrames(project, shot)[0]);
    };
    const where = bar(shot.start.beat);
    return [
      { text: shot.name, where, go },
      ...takesOf(shot).map((id) => ({ text: say`${footageName(footageOf(project, id))} in ${shot.name}`, where, go })),
      ...shot.layers.filter((l) => l.source.kind !== 'take').map((l) => ({ text: say`${l.name} in ${shot.name}`, where, go })),
    ];
  });
  const parts = (project.song?.parts ?? []).map((p) => ({ text: say`Part ${p.name}`, where: bar(p.beat), go: to(p.beat) }));
  const plans = project.plans.map((p) => ({ text: say`Planned: ${p.name}`, where: say`bar ${p.bar}`, go: to(barToBeat(map, p.bar)) }));
  return [...shots, ...parts, ...plans];
}

/** Finds anything on the score by typing: a shot, a take, a part of the song, or a bar by its number. */
export function FindBox({ project }: { project: Project }) {
  const [typed, setTyped] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const map = beatMapOf(project);
  const number = /^(?:bar\s*)?(\d{1,4})$/.exec(typed.trim().toLowerCase());
  const byNumber: Found[] = number
    ? [
        {
          text: say`Bar ${number[1]}`,
          where: '',
          go: () => seek(nearestFrame(beatToSeconds(map, barToBeat(map, Number(number[1]))), project.frame.rate)),
        },
      ]
    : [];
  const found = words.length
    ? [...byNumber, ...places(project).filter(({ text, where }) => words.every((w) => `${text} ${where}`.toLowerCase().includes(w)))].slice(
        0,
        12,
      )
    : [];
  const take = (f: Found) => {
    f.go();
    setTyped('');
  };
  useKeys({ find: () => input.current?.focus() });
  return (
    <Command
      shouldFilter={false}
      label={say`Find on the score`}
      className="relative"
      onKeyDown={(e) => {
        if (e.key === 'Escape') setTyped('');
      }}
    >
      <Command.Input
        ref={input}
        placeholder={say`Find a shot, take, part or bar`}
        className="min-h-11 w-60 rounded-md border border-rule bg-sheet px-2 sm:min-h-9"
        value={typed}
        onValueChange={setTyped}
      />
      <Command.List
        label={say`Found`}
        hidden={words.length === 0}
        className="absolute z-30 mt-1 max-h-80 w-80 max-w-[90vw] overflow-y-auto rounded-md border border-rule bg-sheet shadow-lg"
      >
        {found.map((f, i) => (
          <Command.Item
            key={i}
            value={`${i} ${f.text}`}
            className="flex min-h-11 w-full cursor-pointer items-center justify-between gap-3 px-3 text-left data-[selected=true]:bg-rule/40"
            onSelect={() => take(f)}
          >
            <span className="truncate">{f.text}</span>
            <span className="num shrink-0 text-sm text-faint">{f.where}</span>
          </Command.Item>
        ))}
        {words.length > 0 && <Command.Empty className="px-3 py-2 text-faint">{say`Nothing on the score is called that.`}</Command.Empty>}
      </Command.List>
    </Command>
  );
}
