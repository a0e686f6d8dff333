import { type Instant, momentText } from '@/core/base/time';
import type { LookState } from '@/server/exam/lookState';
import { Link } from '../kit/Link';
import { State } from '../kit/Page';
import { TextLink } from '../kit/TextLink';

/** How a colleague's look stands, in words. */
export const LookSaid = ({
  look,
  timeZone,
}: {
  look: Pick<LookState, 'askedAt' | 'signedAt' | 'changedSince'>;
  /** Absent where the moment matters less than the state. */
  timeZone?: string;
}) => {
  const at = (moment: Instant) => (timeZone ? ` ${momentText(moment, timeZone)}` : '');
  if (look.signedAt === null) return <State ink="waits">asked{at(look.askedAt)}</State>;
  if (look.changedSince) return <State ink="waits">signed off{at(look.signedAt)}, changed since</State>;
  return <State ink="done">signed off{at(look.signedAt)}</State>;
};

/** Who has looked at an exam and what came of it, in one line, with the way there. */
export function LooksSaid({
  href,
  looks,
  remarks,
  mayAsk,
}: {
  href: string;
  looks: readonly LookState[];
  remarks: number;
  mayAsk: boolean;
}) {
  if (looks.length === 0 && remarks === 0)
    return mayAsk ? (
      <p className="text-sm">
        <TextLink href={href}>Ask a colleague to look at it</TextLink>
      </p>
    ) : null;
  return (
    <p className="text-sm">
      {looks.map((look) => (
        <span key={look.id}>
          {look.colleague} <LookSaid look={look} /> ·{' '}
        </span>
      ))}
      <Link href={href} className={`underline ${remarks ? 'text-plum' : 'text-prussian'}`}>
        {remarks === 0 ? 'the look' : remarks === 1 ? 'one open remark' : `${remarks} open remarks`}
      </Link>
    </p>
  );
}
