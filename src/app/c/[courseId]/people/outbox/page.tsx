import { orNotFound, page } from '@/app/pages';
import { momentText } from '@/core/base/time';
import { seeCourse } from '@/server/people/courses';
import { listOutbox } from '@/server/people/listOutbox';
import { Empty, PageTitle } from '@/ui/kit/Page';

export const metadata = { title: 'Messages sent' };

export default page<'courseId'>((context, { courseId }) => {
  const messages = orNotFound(listOutbox(context, courseId));
  const { timeZone } = orNotFound(seeCourse(context, courseId));
  return (
    <div>
      <PageTitle
        back={{ href: `/c/${courseId}/people`, name: 'People' }}
        title="Messages sent"
        note={`The newest ${messages.length}. They stand here in place of a mail server.`}
      />
      {messages.length === 0 ? (
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
    </div>
  );
});
