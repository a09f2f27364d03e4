'use client';
import { say } from '@/core/words';
import { Button, Empty } from '@/ui/controls';

/** What there is to do when no project could be opened: the page is never a dead end. */
export function NoProject({ onDemo, onNew, onStorage }: { onDemo: () => void; onNew: () => void; onStorage: () => void }) {
  return (
    <Empty text={say`No project is open. What is kept in this browser is untouched.`}>
      <div className="flex flex-wrap justify-center gap-2">
        <Button kind="main" onClick={onDemo}>
          {say`Open the demo`}
        </Button>
        <Button onClick={onNew}>{say`Begin an empty project`}</Button>
        <Button onClick={onStorage}>{say`Look at what is kept`}</Button>
      </div>
    </Empty>
  );
}
