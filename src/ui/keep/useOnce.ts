'use client';
import { useCallback, useRef } from 'react';
import type { Result } from '@/core/base/result';
import type { Command } from '../kit/usePerform';
import { carriedOutOnce } from './carriedOutOnce';
import { newOnce } from './newOnce';

/**
 * Sends commands under a name. The same, sent again after its answer got lost, carries its name again: the server answers it
 * again and does nothing twice.
 */
export function useOnce() {
  const unanswered = useRef<{ sent: string; once: string } | null>(null);
  return useCallback(
    async <Input extends unknown[], Value>(command: Command<Input, Value>, ...input: Input): Promise<Result<Value>> => {
      const sent = JSON.stringify(input);
      if (unanswered.current?.sent !== sent) unanswered.current = { sent, once: newOnce() };
      const answer = await carriedOutOnce(command, unanswered.current.once)(...input);
      unanswered.current = null;
      return answer;
    },
    [],
  );
}
