'use client';
import { useState } from 'react';
import { say } from '@/core/words';
import { version } from '../../package.json';
import { Button, Note } from './controls';

/** What a report says: enough to mend a fault by, and nothing of what was filmed. */
const reportOf = (error: Error & { digest?: string }) =>
  [
    say`Fickle Ribbon ${version}`,
    navigator.userAgent,
    `${window.innerWidth}×${window.innerHeight}, ${location.pathname}`,
    `${error.name}: ${error.message}`,
    error.digest ?? '',
    error.stack ?? '',
  ].join('\n');

/** A page that could not be drawn: what happened, what is safe, a report to copy, and how to go on. */
export function WentWrong({ error, onRetry }: { error: Error & { digest?: string }; onRetry: () => void }) {
  const [copied, setCopied] = useState('');
  const copy = () =>
    void navigator.clipboard.writeText(reportOf(error)).then(
      () => setCopied(say`The report is copied. Nothing of your footage is in it.`),
      () => setCopied(reportOf(error)),
    );
  return (
    <div className="mx-auto max-w-xl space-y-4 p-6" role="alert">
      <h1 className="text-2xl font-semibold">{say`This page could not be shown`}</h1>
      <Note level="bad">{say`Something in it went wrong: ${error.message || say`no reason was given`}`}</Note>
      <p>
        {say`Your project is safe: every change was saved as it was made, and your films are where they were. Go on here, or open another stage.`}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button kind="main" onClick={onRetry}>
          {say`Go on`}
        </Button>
        <Button onClick={() => location.assign('/storage')}>{say`Projects and storage`}</Button>
        <Button onClick={copy}>{say`Copy a report`}</Button>
      </div>
      {copied && <pre className="max-h-60 overflow-y-auto whitespace-pre-wrap text-sm">{copied}</pre>}
    </div>
  );
}
