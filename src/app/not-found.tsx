import Link from 'next/link';
import { say } from '@/core/words';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl space-y-4 p-6">
      <h1 className="text-2xl font-semibold">{say`There is no such page`}</h1>
      <p>{say`Your projects are where they were.`}</p>
      <Link href="/plan" prefetch={false} className="inline-flex min-h-11 items-center underline">
        {say`To the project`}
      </Link>
    </main>
  );
}
