'use client';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { TextLink } from '../kit/TextLink';

/** Looks through the messages of a course; what is looked for stands in the address. */
export const FindMessages = ({ find, here, isAll }: { find: string; here: string; isAll: boolean }) => (
  <form className="mb-3 flex flex-wrap items-center gap-3">
    <input
      type="search"
      name="find"
      aria-label="Find messages"
      placeholder="Find by name, email or subject"
      defaultValue={find}
      className={`${inputShape} max-w-sm`}
    />
    <Button type="submit">Find</Button>
    {!isAll && <TextLink href={here}>All messages</TextLink>}
  </form>
);
