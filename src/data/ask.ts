import { create } from 'zustand';

/** Something only the user can decide. */
export interface Question {
  title: string;
  text: string;
  /** The answers, the usual one first; each does something. Putting the question away is an answer of its own: null. */
  answers: readonly { id: string; label: string }[];
}

interface Asked extends Question {
  answer(id: string | null): void;
}

/** Questions that wait, the one asked first in front. */
export const useQuestions = create<{ asked: readonly Asked[] }>(() => ({ asked: [] }));

/** Asks the user and waits for the answer; null where the question was put away. */
export function ask(question: Question): Promise<string | null> {
  return new Promise((done) => {
    const asked: Asked = {
      ...question,
      answer(id) {
        useQuestions.setState((s) => ({ asked: s.asked.filter((a) => a !== asked) }));
        done(id);
      },
    };
    useQuestions.setState((s) => ({ asked: [...s.asked, asked] }));
  });
}
