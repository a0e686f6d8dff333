import type { AsideAnswer, AsideKey } from '@/server/attempt/aside';
import type { Command } from '../kit/usePerform';

/** What can be done in a room. */
export type RoomCommands = {
  /** To some attempts, or to everyone who is writing. */
  giveTime: Command<[attemptIds: string[] | null, minutes: number], { given: number }>;
  handIn: Command<[attemptId: string], null>;
  reopen: Command<[attemptId: string, minutes: number, reason: string], null>;
  voidOne: Command<[attemptId: string, reason: string], null>;
  restore: Command<[attemptId: string], null>;
  letThrough: Command<[userId: string], null>;
  note: Command<[kind: 'incident' | 'message', userId: string | null, text: string], null>;
  aside: Command<[userId: string], AsideAnswer[]>;
  decide: Command<[key: AsideKey, take: boolean], null>;
};
