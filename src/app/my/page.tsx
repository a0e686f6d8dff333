import { page } from '@/app/pages';
import { myExams } from '@/server/desk/myExams';
import { studentLine } from '@/server/desk/term';
import { myResults } from '@/server/release/myResults';
import { newResults } from '@/server/release/resultsSeen';
import { MyExams } from '@/ui/attempt/MyExams';

export const metadata = { title: 'My exams' };

export default page((context) => {
  const results = myResults(context);
  return <MyExams exams={myExams(context, results)} news={newResults(context, results)} line={studentLine(context)} />;
});
