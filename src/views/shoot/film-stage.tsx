'use client';
import { Camera, Radio } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { plannedSlots } from '@/core/edit';
import { type PlannedShot, recipeOf } from '@/core/plan';
import { say } from '@/core/words';
import { camera, closeCamera, onAlarm, openDevice, openSimulated, useCamera } from '@/data/camera';
import { beep, stopHandsFree } from '@/data/hands-free';
import { usePlan } from '@/data/plans';
import { useProject } from '@/data/store';
import { Button, Note } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { LiveFigures } from './figures';
import { GhostFields } from './ghost-fields';
import { HandsFree } from './hands-free';
import { SimulationFields } from './simulation-fields';
import { type Ghost, Viewfinder } from './viewfinder';

/** Opens a camera, real or simulated. */
function CameraChoice({ plan }: { plan: PlannedShot | null }) {
  const { state, kind, locks } = useCamera(useShallow(({ state, kind, locks }) => ({ state, kind, locks })));
  return (
    <section>
      <div className="flex flex-wrap gap-2">
        <Button kind={kind === 'device' ? 'main' : 'plain'} disabled={state === 'changing'} onClick={() => void openDevice(plan)}>
          <Camera size={17} aria-hidden />
          {say` This device’s camera`}
        </Button>
        <Button kind={kind === 'simulated' ? 'main' : 'plain'} disabled={state === 'changing'} onClick={() => void openSimulated(960, 540)}>
          <Radio size={17} aria-hidden />
          {say` Simulated camera`}
        </Button>
        {state === 'open' && <Button onClick={() => void closeCamera()}>{say`Close it`}</Button>}
      </div>
      {locks.length > 0 && (
        <ul className="mt-2 text-sm text-faint">
          {locks.map((l) => (
            <li key={l}>{l}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The live picture by itself in a second window, for a screen that is seen from the mark. */
function openMirror(): void {
  const source = document.querySelector<HTMLCanvasElement>('[data-testid=viewfinder]');
  const other = window.open('', 'fickle-ribbon-mirror', 'popup,width=960,height=560');
  if (!other || !source) {
    useCamera.setState({ problem: say`The browser did not open a second window. Allow pop-up windows for this page.` });
    return;
  }
  other.document.title = 'Viewfinder';
  other.document.body.style.cssText = 'margin:0;background:#767472';
  const video = other.document.createElement('video');
  video.style.cssText = 'width:100vw;height:100vh;object-fit:contain;transform:scaleX(-1)';
  video.srcObject = source.captureStream(25);
  video.muted = true;
  other.document.body.replaceChildren(video);
  void video.play();
}

/** Keeps the screen on while the stage is open, where the browser lets. */
function useScreenOn(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    void navigator.wakeLock?.request('screen').then(
      (l) => {
        lock = l;
      },
      () => undefined,
    );
    return () => void lock?.release();
  }, []);
}

/** The viewfinder, its figures, and filming by hand or hands free. */
export function FilmStage() {
  const project = useProject((s) => s.project);
  const plan = usePlan();
  const { problem, notice, saving, state, kind } = useCamera(
    useShallow(({ problem, notice, saving, state, kind }) => ({ problem, notice, saving, state, kind })),
  );
  const [ghost, setGhost] = useState<Ghost | null>(null);
  useEffect(() => {
    onAlarm(() => {
      beep(440, 0.25);
      beep(330, 0.35, 0.25);
    });
    const hidden = () => {
      if (document.hidden && useCamera.getState().recorded !== null)
        useCamera.setState({
          notice: say`The page was hidden while recording. It goes on here, but some phones stop the camera then: look at the take before you strike.`,
        });
    };
    document.addEventListener('visibilitychange', hidden);
    return () => {
      document.removeEventListener('visibilitychange', hidden);
      stopHandsFree();
      void closeCamera();
    };
  }, []);
  useScreenOn();
  if (!project) return null;
  const slots = plan ? plannedSlots(project, plan) : [];
  return (
    <div className="grid gap-5 lg:grid-cols-[1.6fr_1fr]">
      <div>
        <Viewfinder plan={plan} ghost={ghost} />
        <LiveFigures />
        {problem && (
          <div className="mt-3" role="alert">
            <Note level="bad">{problem}</Note>
          </div>
        )}
        {notice && (
          <div className="mt-3" role="alert">
            <Note level="unsure">{notice}</Note>
          </div>
        )}
        {saving && <p className="mt-2 text-faint">{saving}…</p>}
      </div>
      <div className="space-y-4">
        {project.plans.length > 1 && (
          <SelectField
            label={say`Planned shot`}
            value={plan?.id ?? ''}
            options={project.plans.map((p) => [p.id, `${p.name} (${recipeOf(p).name.toLowerCase()})`] as const)}
            onChange={(id) => useProject.setState({ selectedPlan: id })}
          />
        )}
        <CameraChoice plan={plan} />
        {state === 'open' && (
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => void camera().remember()}>{say`Remember this as the set-up`}</Button>
            <Button onClick={openMirror}>{say`Show it in a second window`}</Button>
          </div>
        )}
        {plan ? (
          <HandsFree plan={plan} slots={slots} />
        ) : (
          <Note level="unsure">{say`Plan a shot first: its slots are what is filmed here.`}</Note>
        )}
        {state === 'open' && kind === 'simulated' && <SimulationFields />}
        {state === 'open' && <GhostFields project={project} ghost={ghost} onGhost={setGhost} />}
      </div>
    </div>
  );
}
