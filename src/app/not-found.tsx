import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl space-y-4 p-6">
      <h1 className="text-2xl font-semibold">There is no such page</h1>
      <p>Your projects are where they were.</p>
      <Link href="/plan" prefetch={false} className="inline-flex min-h-11 items-center underline">
        To the project
      </Link>
    </main>
  );
}
