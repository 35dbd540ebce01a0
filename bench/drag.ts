/**
 * Frames per second while the caliper is dragged over a screen of so many parts (1,000 where nothing is said), in the built
 * application: while the screen is proved for the first time, and once that is done.
 */
import { onWorkbench, proved } from './workbench.js';

const PARTS = Number(process.argv[2] ?? 1000);
/** How long the scripted hand drags, ms. */
const DRAG = 4_000;

/** Moves the pointer over the rail once a frame, to and fro between phone and desktop widths, and counts the frames shown. */
const SCRIPT = `
  const [ms, done] = arguments;
  const rail = document.querySelector('.rail-track');
  const box = rail.getBoundingClientRect();
  const send = (type, x) => rail.dispatchEvent(new PointerEvent(type, {
    bubbles: true, pointerId: 1, buttons: 1, clientX: x, clientY: box.top + 5 }));
  rail.setPointerCapture = () => {};
  const at = (t) => box.left + box.width * (0.32 + 0.28 * Math.sin(t / 700));
  const from = performance.now();
  const widths = new Set();
  let frames = 0;
  send('pointerdown', at(0));
  const step = () => {
    const t = performance.now() - from;
    if (t > ms) return done({ fps: frames / (t / 1000), widths: widths.size });
    frames++;
    send('pointermove', at(t));
    widths.add(document.querySelector('.caliper').getAttribute('aria-valuenow'));
    requestAnimationFrame(step);
  };
  requestAnimationFrame(step);`;

await onWorkbench(PARTS, async (driver) => {
  const drag = async (when: string) => {
    const { fps, widths }: { fps: number; widths: number } = await driver.executeAsyncScript(SCRIPT, DRAG);
    return { 'parts on the screen': PARTS, when, 'frames a second': fps.toFixed(1), 'widths shown': widths };
  };
  const whileProved = await drag('while it is proved');
  await proved();
  console.table([whileProved, await drag('once it is proved')]);
});
