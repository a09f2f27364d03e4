'use client';
import { useEffect, useRef, useState } from 'react';
import { say } from '@/core/words';
import { receiveProject, sendProject } from '@/data/between';
import { answerPairing, found, offerPairing, type Pairing } from '@/data/between-line';
import { useProject } from '@/data/store';
import { sentenceOf } from '@/media/sentence';
import { Button, Heading, Note, Working } from '@/ui/controls';
import { Code } from './code';
import { ReadCode } from './read-code';

type Way = 'send' | 'receive';
type Offer = Awaited<ReturnType<typeof offerPairing>>;
interface Gone {
  bytes: number;
  of: number;
}

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

/** A project goes to another device, or comes from one, directly. */
export function DevicesView() {
  const project = useProject((s) => s.project);
  const [way, setWay] = useState<Way | null>(null);
  const [code, setCode] = useState('');
  const [busy, setBusy] = useState(false);
  const [gone, setGone] = useState<Gone | null>(null);
  const [said, setSaid] = useState<{ level: 'good' | 'bad'; text: string } | null>(null);
  const pairing = useRef<Pairing | Offer | null>(null);
  /** Counts attempts: what an attempt that was left still says is not heard. */
  const attempt = useRef(0);

  const leave = () => {
    attempt.current++;
    pairing.current?.close();
    pairing.current = null;
    setWay(null);
    setCode('');
    setBusy(false);
    setGone(null);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the page is left
  useEffect(() => leave, []);

  /** Runs a step of an attempt; a sentence where it fails, and with `again` nothing of the attempt is left. False then. */
  const step = async (again: boolean, work: (still: () => boolean) => Promise<void>): Promise<boolean> => {
    const mine = attempt.current;
    const still = () => attempt.current === mine;
    setSaid(null);
    setBusy(true);
    try {
      await work(still);
      return still();
    } catch (error) {
      if (!still()) return false;
      if (again) leave();
      setSaid({ level: 'bad', text: sentenceOf(error) });
      return false;
    } finally {
      if (still()) setBusy(false);
    }
  };

  const send = () =>
    step(true, async (still) => {
      setWay('send');
      const offer = await offerPairing();
      if (!still()) return offer.close();
      pairing.current = offer;
      setCode(offer.code);
    });

  const answered = async (given: string) => {
    const offer = pairing.current as Offer;
    if (!(await step(false, () => offer.answered(given)))) return;
    await goOver(offer, async (line, tell) => {
      const sent = useProject.getState().project;
      if (!sent) throw new Error(say`No project is open.`);
      const all = sent.media.reduce((sum, m) => sum + m.bytes, 0);
      const left = await sendProject(line, sent, (bytes) => tell({ bytes, of: all }));
      return say`“${sent.name}” is on the other device. ${left}`;
    });
  };

  const receive = async (given: string) => {
    leave();
    setWay('receive');
    const answering = await step(false, async (still) => {
      const answer = await answerPairing(given);
      if (!still()) return answer.close();
      pairing.current = answer;
      setCode(answer.code);
    });
    if (!answering || !pairing.current) return;
    await goOver(pairing.current, async (line, tell) => {
      const left = await receiveProject(line, (bytes, of) => tell({ bytes, of }));
      return say`“${useProject.getState().project?.name ?? ''}” is here and open. ${left}`;
    });
  };

  /** Waits for the other device, then works over the line. The one that answers waits as long as its code is shown. */
  const goOver = (mine: Pairing, work: (line: Awaited<Pairing['line']>, tell: (gone: Gone) => void) => Promise<string>) =>
    step(true, async (still) => {
      const line = await ('answered' in mine ? found(mine.line) : mine.line);
      if (!still()) return;
      setGone({ bytes: 0, of: 0 });
      const text = await work(line, (now) => still() && setGone(now));
      if (!still()) return;
      // The last message must leave before the line is closed.
      setTimeout(() => mine.close(), 1000);
      pairing.current = null;
      leave();
      setSaid({ level: 'good', text });
    });

  const receiving = useRef(receive);
  receiving.current = receive;
  useEffect(() => {
    // A camera application opened the page with the code of a device that sends, or led the open page there.
    const given = () => {
      const code = location.hash.slice(1);
      if (!code) return;
      history.replaceState(history.state, '', location.pathname);
      void receiving.current(code);
    };
    given();
    window.addEventListener('hashchange', given);
    return () => window.removeEventListener('hashchange', given);
  }, []);

  return (
    <div className="mx-auto max-w-3xl p-4 pb-16">
      <Heading title={say`Between devices`} question={say`From the phone that filmed to the desktop that edits, and back.`} />
      <p className="mb-4">
        {say`A project goes directly from one browser to the other, over the network that both are on; nothing of it passes a server. Only what is lacking goes, every file is checked by its hash, and what is broken off is gone on with the next time.`}
      </p>
      <div aria-live="polite">{said && <Note level={said.level}>{said.text}</Note>}</div>
      {gone ? (
        <div className="my-4">
          <Working
            text={`${way === 'send' ? say`Sending` : say`Receiving`}: ${megabytes(gone.bytes)}${gone.of ? say` of ${way === 'send' ? say`at most ` : ''}${megabytes(gone.of)}` : ''}.`}
            done={gone.of ? gone.bytes / gone.of : 0}
            onStop={leave}
          />
        </div>
      ) : way === null ? (
        <div className="my-4 flex flex-wrap gap-2">
          {project && <Button kind="main" onClick={() => void send()}>{say`Send “${project.name}”`}</Button>}
          <Button onClick={() => setWay('receive')}>{say`Receive a project`}</Button>
        </div>
      ) : (
        <>
          <ol className="my-4 grid gap-6 sm:grid-cols-2">
            {way === 'send' ? (
              <>
                <li>
                  <h2 className="mb-2 font-semibold">
                    {say`1. Let the other device read this: under “Receive a project”, or by its camera application`}
                  </h2>
                  {code ? <Code code={code} label={say`The code of this device`} /> : <p className="text-faint">{say`Making the code…`}</p>}
                </li>
                <li>
                  <h2 className="mb-2 font-semibold">{say`2. Then read here what it shows`}</h2>
                  {code && (
                    <ReadCode
                      label={say`Or type or paste the code of the other device`}
                      busy={busy}
                      onCode={(given) => void answered(given)}
                    />
                  )}
                </li>
              </>
            ) : (
              <>
                <li>
                  <h2 className="mb-2 font-semibold">{say`1. Read the code of the device that sends`}</h2>
                  {!code && <ReadCode label={say`Or type or paste its code`} busy={busy} onCode={(given) => void receive(given)} />}
                  {code && <p className="text-faint">{say`It is read.`}</p>}
                </li>
                <li>
                  <h2 className="mb-2 font-semibold">{say`2. Then let it read this`}</h2>
                  {code && <Code code={code} label={say`The answer of this device`} />}
                </li>
              </>
            )}
          </ol>
          <Button onClick={leave}>{say`Stop`}</Button>
        </>
      )}
    </div>
  );
}
