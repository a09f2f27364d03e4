import { readFileSync } from 'node:fs';
import type { Metadata } from 'next';
import Link from 'next/link';
import { say } from '@/core/words';

export const metadata: Metadata = { title: say`Licences of what ships: Fickle Ribbon` };

/** The licence texts of all that ships, as gathered from the lock file before the build. */
export default function LicencesPage() {
  const text = readFileSync('public/licences.txt', 'utf8');
  return (
    <main className="mx-auto h-dvh max-w-4xl overflow-y-auto p-4 sm:p-6">
      <h1 className="text-2xl font-semibold">{say`Licences of what ships`}</h1>
      <p className="mb-4">
        <Link href="/plan" prefetch={false} className="inline-flex min-h-11 items-center underline">
          {say`Back to the project`}
        </Link>
      </p>
      <pre className="whitespace-pre-wrap break-words text-sm">{text}</pre>
    </main>
  );
}
