'use client';
import { useState } from 'react';
import { say } from '@/core/words';
import { sentenceOf } from '@/media/sentence';
import { Button, Note } from '@/ui/controls';

/** Hands a file to another application by the system's own sheet; nothing where the system takes no such file. */
export function ShareFile({ file }: { file: File }) {
  const [problem, setProblem] = useState('');
  if (!navigator.canShare?.({ files: [file] })) return null;
  return (
    <div className="mt-2">
      <Button
        onClick={() => {
          setProblem('');
          navigator.share({ files: [file], title: file.name }).catch((error: DOMException) => {
            // Putting the sheet away is no problem.
            if (error.name !== 'AbortError') setProblem(say`It could not be shared: ${sentenceOf(error)} The file is in your downloads.`);
          });
        }}
      >{say`Share “${file.name}”…`}</Button>
      {problem && <Note level="bad">{problem}</Note>}
    </div>
  );
}
