import type { Random } from '../base/random';

const words = ['north', 'south', 'ebb', 'flood', 'port', 'starboard', 'red', 'green'];

/** A word as somebody types it who does not know better. */
export const guessedWord = (random: Random): string => words[random.below(words.length)] ?? '';

/** A number as somebody types it who does not know better. */
export const guessedNumber = (random: Random): string => String(random.below(40) / 2);
