import { useState } from 'react';
import type { Media, Project, Shot } from '@/core/document';
import { sceneOf } from '@/core/evaluate';
import { type Layer, numberAt } from '@/core/layer';
import { type Source, type SourceSetting, sourceKind } from '@/core/sources';
import { say } from '@/core/words';
import { useSettledPlayhead } from '@/data/playhead';
import { keysOf, setNumber, settingAt, unkeySetting } from '@/data/shots';
import { ColourField } from '@/ui/colour-field';
import { Button, Note, NumberField } from '@/ui/controls';
import { FileLink } from '@/ui/file-link';
import { LinesField, SelectField } from '@/ui/value-field';
import { NumberButton } from './number-button';

type Values = Record<string, number | string | null>;

/** A font that ships or one from a file; a file of the user's own is kept with the project. */
function FontField({
  setting,
  values,
  fonts,
  put,
  onFont,
}: {
  setting: Extract<SourceSetting, { is: 'font' }>;
  values: Values;
  fonts: readonly Media[];
  put: (next: Values) => void;
  onFont: (file: File) => Promise<void>;
}) {
  const [said, setSaid] = useState('');
  const own = values[setting.file];
  return (
    <>
      <SelectField
        label={setting.label}
        value={own ? say`file ${own}` : String(values[setting.of])}
        options={[...setting.options, ...fonts.map((m) => [say`file ${m.id}`, m.name] as const)]}
        onChange={(v) => put(v.startsWith('file ') ? { [setting.file]: v.slice(5) } : { [setting.of]: v, [setting.file]: null })}
      />
      <FileLink
        text={say`Use a font from a file`}
        accept=".ttf,.otf,.woff,.woff2,font/*"
        onFile={(file) => {
          setSaid('');
          onFont(file).catch((error: Error) => setSaid(error.message));
        }}
      />
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

/** A number among the settings: typed as a whole, or where it is keyed on the frame at the playhead. */
function SettingRow({
  project,
  shot,
  layer,
  setting,
  whole,
  onWhole,
}: {
  project: Project;
  shot: Shot;
  layer: Layer;
  setting: Extract<SourceSetting, { is: 'number' }>;
  whole: number;
  onWhole: (value: number) => void;
}) {
  const playhead = useSettledPlayhead();
  const at = settingAt(shot.id, layer.id, setting.of);
  const keys = keysOf(shot, at);
  const value = numberAt(sceneOf(project, shot), keys, whole, playhead);
  return (
    <div className="col-span-2 flex items-end gap-1.5">
      <div className="grow">
        <NumberField {...setting} value={value} onChange={(v) => (keys ? setNumber(at, playhead, v) : onWhole(v))} />
      </div>
      <NumberButton shot={shot} layer={layer} at={at} text={say`Keys`} />
      {keys && (
        <Button kind="quiet" onClick={() => unkeySetting(at, value)} aria-label={say`Take the keys of ${setting.label} away`}>
          {say`Unkey`}
        </Button>
      )}
    </div>
  );
}

/** What is chosen of a layer's source, made from its kind's settings. */
export function SourceSettings({
  project,
  shot,
  layer,
  onChange,
  onFont,
}: {
  project: Project;
  shot: Shot;
  layer: Layer;
  onChange: (source: Source) => void;
  onFont: (file: File) => Promise<void>;
}) {
  const { source } = layer;
  const values = source as unknown as Values;
  const put = (next: Values) => onChange({ ...source, ...next } as Source);
  // Fonts of the user's own that are kept with the project, and other layers of the shot that it may show.
  const fonts = project.media.filter((m) => m.kind === 'font');
  const layers = shot.layers.filter((l) => l !== layer && !sourceKind(l.source).again);
  const field = (setting: SourceSetting) => {
    switch (setting.is) {
      case 'colour': {
        const names = setting.of ?? ['r', 'g', 'b'];
        return (
          <ColourField
            key={setting.label}
            label={setting.label}
            value={names.map((name) => Number(values[name]))}
            onChange={(rgb) => put(Object.fromEntries(rgb.map((v, i) => [names[i], v])))}
          />
        );
      }
      case 'text':
        return (
          <div key={setting.label} className="col-span-2">
            <LinesField label={setting.label} value={String(values[setting.of])} onChange={(text) => put({ [setting.of]: text })} />
          </div>
        );
      case 'choice':
        return (
          <SelectField
            key={setting.label}
            label={setting.label}
            value={String(values[setting.of])}
            options={setting.options}
            onChange={(v) => put({ [setting.of]: v })}
          />
        );
      case 'layer':
        return (
          <SelectField
            key={setting.label}
            label={setting.label}
            value={String(values[setting.of])}
            options={[
              ...layers.map(({ id, name }) => [id, name] as const),
              ...(layers.some(({ id }) => id === values[setting.of])
                ? []
                : [[String(values[setting.of]), 'none: it was removed'] as const]),
            ]}
            onChange={(v) => put({ [setting.of]: v })}
          />
        );
      case 'font':
        return <FontField key={setting.label} setting={setting} values={values} fonts={fonts} put={put} onFont={onFont} />;
      default:
        return (
          <SettingRow
            key={setting.label}
            project={project}
            shot={shot}
            layer={layer}
            setting={setting}
            whole={Number(values[setting.of])}
            onWhole={(v) => put({ [setting.of]: v })}
          />
        );
    }
  };
  const { settings } = sourceKind(source);
  return settings.length > 0 ? <div className="grid grid-cols-2 items-end gap-2">{settings.map(field)}</div> : null;
}
