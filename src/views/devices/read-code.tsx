'use client';
import { useEffect, useRef, useState } from 'react';
import { say } from '@/core/words';
import { readQr } from '@/data/qr';
import { sentenceOf } from '@/media/sentence';
import { Button, Note } from '@/ui/controls';

/** Milliseconds between two looks, and the longer side of what is looked at, in pixels. */
const [LOOK, SIDE] = [200, 800];

/** Looks through the camera for a QR code until one is read. */
function Scanner({ onRead, onProblem }: { onRead: (text: string) => void; onProblem: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const tell = useRef({ onRead, onProblem });
  tell.current = { onRead, onProblem };
  useEffect(() => {
    let over = false;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout>;
    const canvas = document.createElement('canvas');
    const look = () => {
      const from = video.current;
      if (over) return;
      if (from?.videoWidth) {
        const scale = Math.min(1, SIDE / Math.max(from.videoWidth, from.videoHeight));
        canvas.width = Math.round(from.videoWidth * scale);
        canvas.height = Math.round(from.videoHeight * scale);
        const page = canvas.getContext('2d', { willReadFrequently: true });
        page?.drawImage(from, 0, 0, canvas.width, canvas.height);
        const text = page && readQr(page.getImageData(0, 0, canvas.width, canvas.height));
        if (text) {
          tell.current.onRead(text);
          return;
        }
      }
      timer = setTimeout(look, LOOK);
    };
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: 'environment', width: { ideal: 1280 } } })
      .then((given) => {
        stream = given;
        if (over || !video.current) {
          for (const track of given.getTracks()) track.stop();
          return;
        }
        video.current.srcObject = given;
        void video.current.play().catch(() => undefined);
        look();
      })
      .catch((error: DOMException) =>
        tell.current.onProblem(
          error.name === 'NotAllowedError'
            ? say`The camera is not allowed here. Allow it in the browser’s settings for this page, or type or paste the code.`
            : say`The camera could not be opened: ${sentenceOf(error)} Type or paste the code.`,
        ),
      );
    return () => {
      over = true;
      clearTimeout(timer);
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
  }, []);
  return <video ref={video} muted playsInline className="w-full max-w-80 rounded-md bg-well" aria-label={say`What the camera sees`} />;
}

/** Takes the other device's code: read by the camera, pasted or typed. */
export function ReadCode({ label, busy, onCode }: { label: string; busy: boolean; onCode: (code: string) => void }) {
  const [looking, setLooking] = useState(false);
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState('');
  return (
    <div className="flex max-w-80 flex-col gap-3">
      {looking ? (
        <>
          <Scanner
            onRead={(text) => {
              setLooking(false);
              setTyped(text);
              onCode(text);
            }}
            onProblem={(text) => {
              setLooking(false);
              setProblem(text);
            }}
          />
          <Button onClick={() => setLooking(false)}>{say`Close the camera`}</Button>
        </>
      ) : (
        <Button
          kind="main"
          disabled={busy}
          onClick={() => {
            setProblem('');
            setLooking(true);
          }}
        >
          {say`Read it with the camera`}
        </Button>
      )}
      {problem && <Note level="bad">{problem}</Note>}
      <label className="block">
        <span className="mb-1 block text-sm text-faint">{label}</span>
        <textarea
          className="num w-full rounded-md border border-rule bg-sheet p-2"
          rows={4}
          autoCapitalize="characters"
          autoComplete="off"
          spellCheck={false}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      <Button disabled={busy || typed.trim() === ''} onClick={() => onCode(typed)}>
        {say`Connect`}
      </Button>
    </div>
  );
}
