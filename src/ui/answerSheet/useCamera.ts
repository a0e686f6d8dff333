import { useCallback, useEffect, useRef, useState } from 'react';
import { type HeldSheet, looked } from '@/core/answerSheet/frames';
import type { SheetOnFrame, SheetsMessage, SheetsWish } from '@/core/answerSheet/sheetMessages';
import type { SheetsToRead } from '@/server/answerSheet/bringPages';
import { sendSheet } from './sendSheet';

/** A sheet that was taken: its code, and whose it is; null for a blank. */
export type Taken = { code: string; name: string | null };

type State =
  | { kind: 'off' }
  | { kind: 'starting' }
  | { kind: 'on'; hint: 'nothing' | 'steady' | 'whole' | 'had' | 'elsewhere' }
  | { kind: 'failed'; why: string };

/** How long a device may rest between two pictures, in milliseconds: reading one takes longer than this. */
const rest = 60;

/** Why the camera does not come on, in words. */
export function whyNoCamera(why: unknown): string {
  const name = why instanceof DOMException ? why.name : '';
  if (name === 'NotAllowedError')
    return 'The camera was not allowed: allow it for this page in the browser, and start again.';
  if (name === 'NotFoundError') return 'This device has no camera.';
  if (name === 'NotReadableError') return 'Another program uses the camera: close it, and start again.';
  return 'The camera cannot be used here. Take pictures of the sheets, and choose the files instead.';
}

/**
 * Reads the sheets that are held before the camera, and sends each on once it was seen well enough.
 *
 * @param to where pages are sent
 */
export function useCamera(to: string, { layouts }: SheetsToRead) {
  const [state, setState] = useState<State>({ kind: 'off' });
  const [taken, setTaken] = useState<Taken[]>([]);
  const video = useRef<HTMLVideoElement>(null);
  const running = useRef<{ stop: () => void } | null>(null);
  const stop = useCallback(() => {
    running.current?.stop();
    running.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  const start = async () => {
    stop();
    setState({ kind: 'starting' });
    let stream: MediaStream;
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: 'environment', width: { ideal: 2_560 }, height: { ideal: 1_920 } },
      });
    } catch (why) {
      return setState({ kind: 'failed', why: whyNoCamera(why) });
    }
    const worker = new Worker(new URL('../../workers/sheets.ts', import.meta.url), { type: 'module' });
    let isOn = true;
    running.current = {
      stop: () => {
        isOn = false;
        worker.terminate();
        for (const track of stream.getTracks()) track.stop();
      },
    };
    const fail = (why: string) => {
      stop();
      setState({ kind: 'failed', why });
    };
    const next = async () => {
      const shown = video.current;
      if (!isOn || !shown) return;
      if (shown.readyState < 2) return void setTimeout(next, rest);
      const frame = await createImageBitmap(shown).catch(() => null);
      if (!isOn) return frame?.close();
      if (!frame) return void setTimeout(next, rest);
      worker.postMessage({ frame } satisfies SheetsWish, [frame]);
    };
    const held = new Map<string, HeldSheet<SheetOnFrame>>();
    const had = new Set<string>();
    const see = async (sheets: readonly SheetOnFrame[]) => {
      let hint: Extract<State, { kind: 'on' }>['hint'] = 'nothing';
      for (const one of sheets) {
        if (had.has(one.code)) {
          hint = 'had';
          continue;
        }
        if (!one.isOurs) {
          hint = 'elsewhere';
          continue;
        }
        const now = looked(held.get(one.code), one);
        if (!('take' in now)) {
          if (now.held) held.set(one.code, now.held);
          hint = now.held ? 'steady' : 'whole';
          continue;
        }
        had.add(one.code);
        held.delete(one.code);
        const sent = await sendSheet(to, now.take.parcel as Uint8Array);
        if (!isOn) return;
        if ('why' in sent) return fail(sent.why);
        navigator.vibrate?.(80);
        setTaken((before) => [{ code: one.code, name: sent.madeOutFor }, ...before]);
        hint = 'had';
      }
      setState({ kind: 'on', hint });
      void next();
    };
    worker.onerror = () => fail('The sheets could not be read in this browser.');
    worker.onmessage = ({ data }: MessageEvent<SheetsMessage>) => {
      if (data.kind === 'frame') void see(data.sheets);
    };
    worker.postMessage({ camera: layouts } satisfies SheetsWish);
    setState({ kind: 'on', hint: 'nothing' });
    // The picture is on the page by now.
    requestAnimationFrame(() => {
      if (!isOn || !video.current) return;
      video.current.srcObject = stream;
      void video.current.play().catch(() => undefined);
      void next();
    });
  };
  return {
    state,
    taken,
    video,
    start: () => void start(),
    stop: () => {
      stop();
      setState({ kind: 'off' });
    },
  };
}
