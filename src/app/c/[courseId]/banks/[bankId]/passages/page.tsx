import { commandsIn, orNotFound, page } from '@/app/pages';
import { listPassages, questionsOfPassage } from '@/server/bank/passages';
import { PassagesPage } from '@/ui/bank/PassagesPage';

export const metadata = { title: 'Passages' };

export default page<'courseId' | 'bankId'>((context, { courseId, bankId }, { passage }) => {
  const passages = orNotFound(listPassages(context, courseId, bankId));
  const open = passages.find((one) => one.id === passage) ?? null;
  return (
    <PassagesPage
      base={`/c/${courseId}/banks/${bankId}`}
      passages={passages}
      open={open}
      isNew={passage === 'new'}
      questions={open ? orNotFound(questionsOfPassage(context, courseId, bankId, open.id)) : []}
      {...commandsIn({ courseId, bankId }, 'savePassage', 'listPassages', 'dropPassage', 'undoChange')}
    />
  );
});
