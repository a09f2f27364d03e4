'use client';
import { useRef } from 'react';
import { Button } from '@/ui/controls';

/** A button that asks for one file. */
export function FileButton({
  children,
  accept,
  onFile,
  disabled,
}: {
  children: string;
  accept: string;
  onFile: (file: File) => void;
  disabled?: boolean;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="hidden"
        aria-label={children}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
