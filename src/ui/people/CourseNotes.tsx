'use client';
import type { CourseNoteRow as Note } from '@/server/people/courseNotes';
import type { Commands } from '../kit/commands';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';

type Props = { base: string; notes: Note[]; tickNote: Commands<'tickNote', 'courseId'>['tickNote'] };

const wayTo = (base: string, note: Note) =>
  note.about === 'exam'
    ? `${base}/exams/${note.subjectId}`
    : note.about === 'sitting'
      ? `${base}/sittings/${note.subjectId}`
      : `${base}/people`;

/** What needs a look since the course was begun from an earlier one, to be ticked off one by one. */
export function CourseNotes({ base, notes, tickNote }: Props) {
  const { perform, problems, busy } = usePerform();
  const open = notes.filter((note) => !note.done).length;
  return (
    <PageFrame width="sheet">
      <PageTitle
        back={{ href: `${base}/people`, name: 'People' }}
        title="What needs a look"
        note={`since this course was begun from the last term · ${open} of ${notes.length} open`}
      />
      <Problems problems={problems} className="mb-3" />
      {notes.length === 0 ? (
        <Empty title="Nothing needs a look">
          When a course is begun as the next term of another, whatever could not be taken over as it was stands here.
        </Empty>
      ) : (
        <Sheet label="What needs a look">
          <ul>
            {notes.map((note) => (
              <li key={note.id} className="flex items-baseline gap-3 border-b border-line px-4 py-2 last:border-b-0">
                <input
                  type="checkbox"
                  className="size-4 shrink-0 translate-y-0.5 accent-pine"
                  aria-label={`Looked at: ${note.title}: ${note.text}`}
                  checked={note.done}
                  disabled={busy}
                  onChange={() => void perform(() => tickNote(note.id, !note.done))}
                />
                <TextLink href={wayTo(base, note)} className="w-56 shrink-0 truncate font-medium">
                  {note.title}
                </TextLink>
                <span className={note.done ? 'text-ink-2 line-through' : ''}>{note.text}</span>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
    </PageFrame>
  );
}
