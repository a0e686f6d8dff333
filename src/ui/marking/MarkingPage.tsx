'use client';
import type { MarkingOrder, MarkingPage as Page } from '@/server/marking/answersToMark';
import { Button } from '../kit/Button';
import { Link } from '../kit/Link';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { TextButton } from '../kit/TextButton';
import { AnswerCard } from './AnswerCard';
import type { MarkingCommands } from './commands';
import { MarkingRuler } from './MarkingRuler';
import { MarkingWays } from './MarkingWays';
import { QuestionBeside } from './QuestionBeside';
import { useMarkingWalk } from './useMarkingWalk';

type Props = {
  base: string;
  /** The address of the marking of this sitting. */
  here: string;
  page: Page;
  /** One question's answers in some order, or all answers paper by paper. */
  by: 'question' | 'paper';
  order: MarkingOrder;
  /** Whether what is given here is a second mark, blind to the first. */
  second?: boolean;
  commands: MarkingCommands;
};

/** Answers by hand, names hidden: type the points, Enter, and the next that waits stands there. */
export function MarkingPage({ base, here, page, by, order, second = false, commands }: Props) {
  const walk = useMarkingWalk({ here, page, by, order, second, commands });
  const { marking, heads, bodies, at, current, shown, firstShown, cards, saved, waiting, show, save, onKey } = walk;
  const { questionOf } = walk;
  const question = questionOf(current);
  return (
    <PageFrame onKeyDown={onKey}>
      <PageTitle
        title={by === 'question' ? question.name : `${page.sittingTitle}, paper by paper`}
        back={{ href: base, name: 'Marking' }}
        note={`${by === 'question' ? `${page.sittingTitle} · ` : ''}${second ? 'second marking, without seeing the first · ' : ''}${heads.length - waiting} of ${heads.length} marked`}
      />
      <p role="status" className="sr-only">
        {saved}
      </p>
      {marking.refused
        .filter(([slotId]) => !shown.some((head) => head.slotId === slotId))
        .map(([slotId, all]) => {
          const index = heads.findIndex((head) => head.slotId === slotId);
          return (
            <p key={slotId} role="alert" className="mb-2 border-l-2 border-brick pl-3 text-brick">
              Answer {heads[index]?.number} is not saved: {all[0]?.message}{' '}
              <TextButton onClick={() => show(index)}>Go back to it</TextButton>
            </p>
          );
        })}
      <MarkingWays walk={walk} here={here} by={by} order={order} second={second} questions={page.questions} />
      <MarkingRuler walk={walk} by={by} />
      <div className="grid items-start gap-4 lg:grid-cols-[1.5fr_1fr]">
        <div ref={cards} className="min-w-0 space-y-4">
          {shown.map((head) => {
            const body = bodies[head.slotId];
            const own = questionOf(head);
            return (
              <div key={head.slotId} data-card={head.slotId}>
                {body ? (
                  <AnswerCard
                    title={
                      body.whose ?? (by === 'paper' ? `${own.name}, paper ${head.paper}` : `Answer ${head.number}`)
                    }
                    body={body}
                    question={own}
                    entered={marking.enteredOf(body)}
                    isTyped={marking.isTyped(head.slotId)}
                    problems={marking.problemsOf(head.slotId)}
                    onEnter={(part) => marking.enter(body, part)}
                    comment={second ? 'settling' : page.commentsShown ? 'student' : 'hidden'}
                    onForget={() => marking.forget(head.slotId)}
                    onKeep={second ? undefined : (text) => walk.keepComment(head.questionId, text)}
                    onDrop={(id) => walk.dropComment(head.questionId, id)}
                  />
                ) : (
                  <Sheet label={`Answer ${head.number}`} className="px-5 py-8 text-ink-2">
                    Answer {head.number} is on its way …
                  </Sheet>
                )}
              </div>
            );
          })}
          <div className="sticky bottom-0 z-10 flex flex-wrap items-center gap-2 border border-line bg-sheet px-5 py-2">
            <span className="mr-auto text-sm text-ink-2">
              Enter: save, next · Alt+↑↓: walk · Alt+N: note · Alt+1 … 5: kept comment
            </span>
            <Button onClick={() => show(firstShown - 1)} whyNot={firstShown === 0 ? 'This is the first answer.' : null}>
              Previous
            </Button>
            <Button
              onClick={() => show(firstShown + shown.length)}
              whyNot={firstShown + shown.length >= heads.length ? 'This is the last answer.' : null}
            >
              Next
            </Button>
            <Button
              look="main"
              busy={marking.saving.includes(current.slotId)}
              title={`For answer ${current.number}`}
              onClick={() => save(at)}
            >
              Save the mark
            </Button>
          </div>
        </div>
        <QuestionBeside question={question} document={page.document}>
          {waiting === 0 && (
            <p role="status" className="text-pine">
              All answers {by === 'question' ? 'to this question' : 'of this sitting'} are marked.{' '}
              <Link href={base} className="underline">
                Back to the queue
              </Link>
              {page.seesResults && !second && (
                <>
                  {' or on to '}
                  <Link href={`${here.replace('/marking/', '/sittings/')}/results`} className="underline">
                    the results
                  </Link>
                </>
              )}
            </p>
          )}
        </QuestionBeside>
      </div>
    </PageFrame>
  );
}
