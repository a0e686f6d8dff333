import { orNotFound, page } from '@/app/pages';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { seeCourse } from '@/server/people/courses';
import { listOutbox } from '@/server/people/listOutbox';
import { Empty, PageFrame, PageTitle } from '@/ui/kit/Page';
import { TextLink } from '@/ui/kit/TextLink';
import { FindMessages } from '@/ui/people/FindMessages';

export const metadata = { title: 'Messages sent' };

export default page<'courseId'>((context, { courseId }, { find = '', before = '' }) => {
  const { messages, all, older } = orNotFound(
    listOutbox(context, courseId, { find: find.slice(0, 100), before: Number.parseInt(before, 10) || null }),
  );
  const { timeZone } = orNotFound(seeCourse(context, courseId));
  return (
    <PageFrame>
      <PageTitle
        back={{ href: `/c/${courseId}/people`, name: 'People' }}
        title="Messages sent"
        note={`${counted(all, 'message')}${find && ' found'}, the newest first. Nothing was mailed: people find theirs when they sign in; give each address to its person.`}
      />
      <FindMessages find={find} here={`/c/${courseId}/people/outbox`} isAll={!find && !before} />
      {messages.length === 0 && find ? (
        <p>No message has “{find}” in its name, email or subject.</p>
      ) : messages.length === 0 ? (
        <Empty title="Nothing sent yet">
          Invitations, new sittings and published results are announced by messages; each stands here.
        </Empty>
      ) : (
        <ul className="border border-line bg-sheet">
          {messages.map((message) => (
            <li key={message.id} className="border-b border-line last:border-b-0">
              <details>
                <summary className="grid grid-cols-[13rem_14rem_1fr] gap-x-4 px-4 py-2 hover:bg-paper">
                  <span className="text-ink-2 tabular-nums">{momentText(message.at, timeZone)}</span>
                  <span className="truncate">{message.name}</span>
                  <span className="truncate font-medium">{message.subject}</span>
                </summary>
                <p className="px-4 pb-3 whitespace-pre-wrap">{`To ${message.email}\n\n${message.body}`}</p>
              </details>
            </li>
          ))}
        </ul>
      )}
      {older !== null && (
        <p className="mt-3">
          <TextLink href={`/c/${courseId}/people/outbox?${new URLSearchParams({ find, before: String(older) })}`}>
            Older messages
          </TextLink>
        </p>
      )}
    </PageFrame>
  );
});
