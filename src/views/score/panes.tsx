'use client';
import { type ReactNode, useEffect } from 'react';
import { Group, Panel, Separator, useDefaultLayout, usePanelRef } from 'react-resizable-panels';
import { say } from '@/core/words';
import { useProject } from '@/data/store';
import { useWide } from '@/ui/use-wide';

interface PanesProps {
  picture: ReactNode;
  transport: ReactNode;
  unfolded: ReactNode;
  /** The selected shot's panel; null while none is. */
  side: ReactNode;
  /** What is laid on the score, and how it is shown. */
  tools: ReactNode;
  /** The pages of the score. */
  lines: ReactNode;
}

/** The line between two panes: drawn to and fro, or moved by arrow keys. */
function Line({ across = false }: { across?: boolean }) {
  const look = across ? 'h-2 w-full border-t' : 'h-full w-2 border-l';
  return (
    <Separator
      className={`shrink-0 border-rule outline-offset-[-2px] hover:border-ink focus-visible:outline-2 focus-visible:outline-mark ${look}`}
      aria-label={across ? say`Height of the picture` : say`Width of the shot’s panel`}
    />
  );
}

/** The score's panes: beside each other with lines that can be drawn where there is room, on a phone one under the other. */
export function Panes(props: PanesProps) {
  return useWide() ? <Wide {...props} /> : <Stacked {...props} />;
}

/** The bars stand right under the picture, a few lines of them at once; what is done to them comes after, under the thumb. */
function Stacked({ picture, transport, unfolded, side, tools, lines }: PanesProps) {
  const aspect = useProject((s) => (s.project ? s.project.frame.width / s.project.frame.height : 16 / 9));
  const upright = aspect < 1;
  return (
    <div className="flex min-h-full flex-col">
      <div className="sticky top-0 z-20" data-over-page>
        <div className="shrink-0" style={{ height: `min(${upright ? 52 : 38}dvh, 100vw / ${aspect})` }}>
          {picture}
        </div>
        {transport}
      </div>
      {unfolded}
      <section
        aria-label={say`Bars`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, by keyboard as well
        tabIndex={0}
        className="max-h-[30dvh] min-h-24 shrink-0 overflow-y-auto overscroll-contain border-b border-rule px-3 pt-3"
      >
        {lines}
      </section>
      <div className="p-3">{tools}</div>
      {side}
    </div>
  );
}

function Wide({ picture, transport, unfolded, side, tools, lines }: PanesProps) {
  const stored = { storage: localStorage };
  const columns = useDefaultLayout({ id: 'score-columns', panelIds: side ? ['score', 'shot'] : ['score'], ...stored });
  const rows = useDefaultLayout({ id: 'score-rows', panelIds: ['picture', 'page'], ...stored });
  const top = usePanelRef();
  const open = unfolded !== null;
  // Opened into frames, a shot needs room under the picture.
  useEffect(() => {
    const share = top.current?.getSize().asPercentage ?? 0;
    if (open && share > 30) top.current?.resize('30%');
    if (!open && share < 30.5) top.current?.resize('40%');
  }, [open, top]);
  return (
    <Group className="h-full" {...columns}>
      <Panel id="score" minSize="30%">
        <Group orientation="vertical" {...rows}>
          <Panel id="picture" panelRef={top} defaultSize="40%" minSize="15%" maxSize="70%">
            {picture}
          </Panel>
          <Line across />
          <Panel id="page" className="flex min-h-0 flex-col">
            {transport}
            {unfolded}
            <div className="min-h-0 grow overflow-y-auto p-3">
              {tools}
              {lines}
            </div>
          </Panel>
        </Group>
      </Panel>
      {side && (
        <>
          <Line />
          <Panel id="shot" defaultSize="340px" minSize="280px" maxSize="50%">
            {side}
          </Panel>
        </>
      )}
    </Group>
  );
}
