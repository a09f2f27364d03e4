import { useState } from 'react';
import type { Media } from '@/core/document';
import { type Source, type SourceSetting, sourceKind } from '@/core/sources';
import { ColourField } from '@/ui/colour-field';
import { Note, NumberField } from '@/ui/controls';
import { LinesField, SelectField } from '@/ui/value-field';

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
        value={own ? `file ${own}` : String(values[setting.of])}
        options={[...setting.options, ...fonts.map((m) => [`file ${m.id}`, m.name] as const)]}
        onChange={(v) => put(v.startsWith('file ') ? { [setting.file]: v.slice(5) } : { [setting.of]: v, [setting.file]: null })}
      />
      <label className="flex min-h-11 cursor-pointer items-center text-sm underline sm:min-h-8">
        Use a font from a file
        <input
          type="file"
          accept=".ttf,.otf,.woff,.woff2,font/*"
          className="sr-only"
          onChange={(e) => {
            const [file] = e.target.files ?? [];
            e.target.value = '';
            setSaid('');
            if (file) onFont(file).catch((error: Error) => setSaid(error.message));
          }}
        />
      </label>
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

/** What is chosen of a layer's source, made from its kind's settings. */
export function SourceSettings({
  source,
  fonts,
  layers,
  onChange,
  onFont,
}: {
  source: Source;
  /** Other layers of the shot that it may show. */
  layers: readonly { id: string; name: string }[];
  /** Fonts of the user's own that are kept with the project. */
  fonts: readonly Media[];
  onChange: (source: Source) => void;
  onFont: (file: File) => Promise<void>;
}) {
  const values = source as unknown as Values;
  const put = (next: Values) => onChange({ ...source, ...next } as Source);
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
          <NumberField
            key={setting.label}
            label={setting.label}
            unit={setting.unit}
            value={Number(values[setting.of])}
            min={setting.min}
            max={setting.max}
            step={setting.step}
            digits={setting.digits}
            onChange={(v) => put({ [setting.of]: v })}
          />
        );
    }
  };
  const { settings } = sourceKind(source);
  return settings.length > 0 ? <div className="grid grid-cols-2 items-end gap-2">{settings.map(field)}</div> : null;
}
