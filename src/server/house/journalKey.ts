import { createHmac } from 'node:crypto';
import type { Context } from './context';
import { installationSecret } from './installation';

/**
 * The key to what a person's browsers keep of what they typed (32 bytes, in base64). It comes with their own pages alone
 * and stays in memory there, so that what is kept at a machine says nothing to whoever sits down at it next.
 */
export const journalKey = ({ db, actor }: Pick<Context, 'db' | 'actor'>): string =>
  createHmac('sha256', installationSecret(db)).update(`journal/${actor.userId}`).digest('base64');
