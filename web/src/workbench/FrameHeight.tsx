import { useState } from 'react';
import { MAX_TALL, MIN_TALL, type WorkbenchStore } from './store';

/** The height of the reflowed sheet: of the whole frame, or of as much of it as a device shows. */
export function FrameHeight({ use, whole }: { readonly use: WorkbenchStore; readonly whole: number }) {
  const tall = use((s) => s.frameHeight);
  const [typed, setTyped] = useState<string>();
  const { setFrameHeight, refuse } = use.getState();
  const take = () => {
    if (typed === undefined) return;
    setTyped(undefined);
    const px = Number(typed);
    if (typed.trim() === '') setFrameHeight(undefined);
    else if (px >= MIN_TALL && px <= MAX_TALL) setFrameHeight(Math.round(px));
    else refuse(`A frame is ${MIN_TALL} to ${MAX_TALL} px high; type nothing for all of it.`);
  };
  if (typed === undefined)
    return (
      <button
        type="button"
        className="frame-height"
        title="Type how much of the frame a device shows at once; nothing for all of it"
        onClick={() => {
          setTyped(tall === undefined ? '' : String(tall));
        }}
      >
        {tall === undefined ? Math.round(whole) : `${tall} of ${Math.round(whole)}`}
        <span className="unseen"> px high: type another height of the frame</span>
      </button>
    );
  return (
    <input
      className="frame-height"
      autoFocus
      aria-label="Type the height of the frame"
      placeholder="all"
      inputMode="numeric"
      value={typed}
      onChange={(e) => {
        setTyped(e.currentTarget.value);
      }}
      onBlur={take}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') take();
        if (e.key === 'Escape') setTyped(undefined);
      }}
    />
  );
}
