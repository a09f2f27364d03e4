import { type Source, type SourceSetting, sourceKind } from '@/core/sources';
import { NumberField } from '@/ui/controls';

const hexOf = (values: readonly number[]) =>
  `#${values
    .map((v) =>
      Math.round(255 * v)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
const ofHex = (hex: string) => [1, 3, 5].map((at) => Math.round((1000 * Number.parseInt(hex.slice(at, at + 2), 16)) / 255) / 1000);

/** What is chosen of a layer's source, made from its kind's settings. */
export function SourceSettings({ source, onChange }: { source: Source; onChange: (source: Source) => void }) {
  const values = source as unknown as Record<string, number>;
  const put = (next: Record<string, number>) => onChange({ ...source, ...next } as Source);
  return sourceKind(source).settings.map((setting: SourceSetting) =>
    setting.is === 'colour' ? (
      <label key={setting.label} className="flex min-h-11 items-center gap-2 text-sm text-faint sm:min-h-9">
        {setting.label}
        <input
          type="color"
          className="h-11 w-16 cursor-pointer rounded-md border border-rule bg-sheet sm:h-9"
          value={hexOf([values.r, values.g, values.b])}
          onChange={(e) => {
            const [r, g, b] = ofHex(e.target.value);
            put({ r, g, b });
          }}
        />
      </label>
    ) : (
      <NumberField
        key={setting.label}
        label={setting.label}
        unit={setting.unit}
        value={values[setting.of]}
        min={setting.min}
        max={setting.max}
        step={setting.step}
        digits={setting.digits}
        onChange={(v) => put({ [setting.of]: v })}
      />
    ),
  );
}
