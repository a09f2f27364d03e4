'use client';
import type { Shot } from '@/core/document';
import { onBeat, stretched, withKey, withMirrored, withMoved } from '@/core/edit';
import { type Key, type NumberKind, type Scene, trackOf } from '@/core/layer';
import { say } from '@/core/words';
import { useSettledPlayhead } from '@/data/playhead';
import { addressOf, changeKeys, keysOf, type NumberAt, removeKeys, setKey } from '@/data/shots';
import { Button, NumberField } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { EaseField } from './ease-field';
import { LayPattern, RepeatKeys } from './key-patterns';
import { useScore } from './use-score';

interface KeyToolsProps {
  shot: Shot;
  at: NumberAt;
  kind: NumberKind;
  scene: Scene;
  value: number;
  inside: boolean;
}

/** The value at the playhead, the key there and its easing; and what is done with several keys at once. */
export function KeyTools({ shot, at, kind, scene, value, inside }: KeyToolsProps) {
  const playhead = useSettledPlayhead();
  const { chosen, boxing } = useScore();
  const keys = keysOf(shot, at);
  const track = keys ? trackOf(scene, keys) : [];
  const key = track.find((k) => k.frame === playhead);
  const many = new Set([...chosen].filter((f) => track.some((k) => k.frame === f)));
  const change = (label: string, how: (keys: Key[]) => Key[], next?: (frame: number) => number) => {
    changeKeys(at, label, how);
    if (next) useScore.setState({ chosen: new Set([...many].map((f) => Math.round(next(f)))) });
  };
  const move = (label: string, to: (frame: number) => number) => change(label, (all) => withMoved(scene, all, many, to), to);
  const others = shot.layers.filter((l) => l.id !== at.layerId);
  return (
    <div className="flex flex-wrap items-end gap-2 px-3 py-2">
      <div className="w-28">
        <NumberField
          label={say`Here`}
          unit={kind.unit}
          value={value}
          min={kind.min}
          max={kind.max}
          step={kind.step}
          digits={kind.digits}
          onChange={(v) => inside && setKey(at, playhead, v)}
        />
      </div>
      {key ? (
        <>
          <EaseField easing={key.easing} onChange={(easing) => setKey(at, playhead, key.value, easing)} />
          <Button onClick={() => removeKeys(at, new Set([playhead]))} disabled={track.length < 2}>
            {say`Remove this key`}
          </Button>
        </>
      ) : (
        <Button disabled={!inside} onClick={() => setKey(at, playhead, value)}>
          {say`Set a key here`}
        </Button>
      )}
      {track.length > 1 && (
        <>
          <Button onClick={() => useScore.setState({ chosen: new Set(track.map((k) => k.frame)) })}>{say`Choose all keys`}</Button>
          <Button aria-pressed={boxing} onClick={() => useScore.setState({ boxing: !boxing })}>
            {say`Choose by a box`}
          </Button>
        </>
      )}
      <LayPattern key={addressOf(at)} shot={shot} at={at} kind={kind} scene={scene} value={value} />
      {many.size > 0 && <RepeatKeys at={at} scene={scene} chosen={many} />}
      {many.size > 1 && (
        <fieldset className="flex flex-wrap items-end gap-2" aria-label={say`${many.size} keys chosen`}>
          <span className="self-center text-sm">
            <span className="num">{many.size}</span>
            {say` keys:`}
          </span>
          <Button onClick={() => move(say`Move keys`, (f) => f - 1)}>{say`A frame back`}</Button>
          <Button onClick={() => move(say`Move keys`, (f) => f + 1)}>{say`A frame on`}</Button>
          <Button onClick={() => move(say`Stretch keys`, stretched([...many], 1.25))}>{say`Stretch`}</Button>
          <Button onClick={() => move(say`Squeeze keys`, stretched([...many], 0.8))}>{say`Squeeze`}</Button>
          <Button onClick={() => change(say`Mirror keys`, (all) => withMirrored(scene, all, many))}>{say`Mirror`}</Button>
          <Button onClick={() => move(say`Snap keys to beats`, (f) => onBeat(scene, f))}>{say`Onto beats`}</Button>
          <Button onClick={() => removeKeys(at, many)}>{say`Remove`}</Button>
          {at.partId === null && others.length > 0 && (
            <SelectField
              label={say`Copy to`}
              value=""
              options={[['', say`a layer`], ...others.map((l) => [l.id, l.name] as const)]}
              onChange={(layerId) => {
                if (!layerId) return;
                const copied = track.filter((k) => many.has(k.frame));
                changeKeys({ ...at, layerId }, say`Copy keys to a layer`, (now) =>
                  copied.reduce<Key[]>((all, k) => withKey(scene, all, k.frame, k.value, k.easing), now),
                );
              }}
            />
          )}
        </fieldset>
      )}
      {shot.overrides.includes(addressOf(at)) && shot.move && (
        <span className="self-center text-sm text-faint">{say`These keys are yours.`}</span>
      )}
    </div>
  );
}
