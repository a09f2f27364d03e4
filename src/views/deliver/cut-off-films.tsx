'use client';
import { useEffect, useState } from 'react';
import { say } from '@/core/words';
import { cutOffFilms, keepCutOffFilm } from '@/data/jobs';
import { removeStored } from '@/data/storage';
import { download, storedFilm } from '@/data/stored';
import { sentenceOf } from '@/media/sentence';
import { Button, Note } from '@/ui/controls';

/** Offers films that a crash broke off in the making: each plays up to where it got. `name` without its ending. */
export function CutOffFilms({ name }: { name: string }) {
  const [films, setFilms] = useState<{ name: string; bytes: number }[]>([]);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    let wanted = true;
    void cutOffFilms().then(
      (found) => wanted && setFilms(found),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, []);
  const act = (film: string, work: () => Promise<unknown>) =>
    void work().then(
      () => setFilms((all) => all.filter((f) => f.name !== film)),
      (error: unknown) => setProblem(sentenceOf(error)),
    );
  return films.map((film) => (
    <div key={film.name} role="alert" className="space-y-2">
      <Note level="fix">{say`A film was broken off in the making: ${(film.bytes / 1e6).toFixed(1)} MB of it are here and play up to where it got.`}</Note>
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() =>
            act(film.name, async () => {
              const whole = await keepCutOffFilm(film.name);
              download(await storedFilm(whole), `${name}part.${whole.split('.').pop()}`);
            })
          }
        >
          {say`Download what is there`}
        </Button>
        <Button onClick={() => act(film.name, () => removeStored('films', film.name))}>{say`Throw it away`}</Button>
      </div>
      {problem && <Note level="bad">{problem}</Note>}
    </div>
  ));
}
