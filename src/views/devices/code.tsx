'use client';
import { useMemo, useState } from 'react';
import { say } from '@/core/words';
import { qrOf } from '@/data/qr';
import { Button } from '@/ui/controls';

/** A code to be read by the other device's camera, copied or typed. A device's own camera application opens the page with it. */
export function Code({ code, label }: { code: string; label: string }) {
  const [copied, setCopied] = useState(false);
  const squares = useMemo(() => qrOf(`${location.origin}/devices#${code}`), [code]);
  const path = squares.flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x} ${y}h1v1h-1z`] : []))).join('');
  return (
    <figure>
      <svg
        role="img"
        aria-label={say`${label}, as a QR code`}
        viewBox={`0 0 ${squares.length} ${squares.length}`}
        className="w-full max-w-80 rounded-md bg-white"
        shapeRendering="crispEdges"
      >
        <path d={path} fill="#000" />
      </svg>
      <figcaption className="mt-2 max-w-80">
        <code className="num block break-all text-sm" data-testid="code">
          {code}
        </code>
        <Button
          className="mt-2"
          onClick={() =>
            void navigator.clipboard.writeText(code).then(
              () => setCopied(true),
              () => setCopied(false),
            )
          }
        >
          {copied ? say`Copied` : say`Copy the code`}
        </Button>
      </figcaption>
    </figure>
  );
}
