'use client';
import { useEffect, useRef, useState } from 'react';
import type { RehearsalMessage, RehearsalWish } from '@/core/exam/rehearsal';

type RehearsalState =
  | { kind: 'idle' }
  | { kind: 'running'; done: number; all: number }
  | { kind: 'cancelled' }
  | Exclude<RehearsalMessage, { kind: 'progress' }>;

/** Runs a rehearsal in a worker of its own; a cancelled one ends at once, and a new one begins anew. */
export function useRehearsal() {
  const [state, setState] = useState<RehearsalState>({ kind: 'idle' });
  const worker = useRef<Worker | null>(null);
  const end = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => () => worker.current?.terminate(), []);

  const start = (wish: RehearsalWish) => {
    end();
    const own = new Worker(new URL('../../../workers/rehearsal.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.onmessage = ({ data }: MessageEvent<RehearsalMessage>) => {
      if (worker.current !== own) return;
      if (data.kind === 'progress') setState({ kind: 'running', done: data.done, all: data.all });
      else {
        end();
        setState(data);
      }
    };
    own.onerror = () => {
      end();
      setState({ kind: 'failed', message: 'The rehearsal could not be run in this browser.' });
    };
    setState({ kind: 'running', done: 0, all: 0 });
    own.postMessage({ ...wish, material: new URL(wish.material, location.href).href });
  };
  const cancel = () => {
    end();
    setState({ kind: 'cancelled' });
  };
  return { state, start, cancel };
}
