'use client';
import { useMemo, useState } from 'react';
import { footageOf, type Project, type Take } from '@/core/document';
import { say } from '@/core/words';
import { Slider } from '@/ui/slider';
import { ComparePicture } from './compare-picture';
import { useAlignedPicture } from './use-aligned';

const everywhere = { across: false, at: () => 0 };

/** A corrected take against its reference as it was filmed and as it is put right: grey is no difference. */
export function BeforeAfter({ project, take, reference }: { project: Project; take: Take; reference: Take }) {
  const [media, other] = [footageOf(project, take.id), footageOf(project, reference.id)];
  const [share, setShare] = useState(0.5);
  // biome-ignore lint/correctness/useExhaustiveDependencies: anew only for another take or another correction
  const [filmed, corrected, still] = useMemo(
    () => [
      { media, correction: null },
      { media, correction: take.correction && { ...take.correction, enabled: true } },
      { media: other, correction: null },
    ],
    [take.id, take.correction, reference.id],
  );
  const at = ({ from, to }: { from: number; to: number }) => from + share * (to - from - 0.1);
  const beside = useAlignedPicture(still, at(other));
  const before = useAlignedPicture(filmed, at(media));
  const after = useAlignedPicture(corrected, at(media));
  return (
    <div className="space-y-1" data-testid="before-after">
      <div className="grid grid-cols-2 gap-2 text-sm text-faint">
        <figure>
          <ComparePicture first={beside} second={before} how="difference" edge={everywhere} zoom={1} />
          <figcaption>{say`As filmed: what differs from the reference, eightfold`}</figcaption>
        </figure>
        <figure>
          <ComparePicture first={beside} second={after} how="difference" edge={everywhere} zoom={1} />
          <figcaption>{say`Corrected`}</figcaption>
        </figure>
      </div>
      <Slider
        label={say`Place in both takes, per cent`}
        value={100 * share}
        min={0}
        max={100}
        step={1}
        onChange={(v) => setShare(v / 100)}
      />
    </div>
  );
}
