import type { Metadata } from 'next';
import { myExams } from '@/server/desk/myExams';
import { myResults } from '@/server/release/myResults';
import { newResults } from '@/server/release/resultsSeen';
import { MyExams } from '@/ui/attempt/MyExams';
import { pageContext } from '../request';

export const metadata: Metadata = { title: 'My exams' };

export default async function MyExamsPage() {
  const context = await pageContext();
  const results = myResults(context);
  return <MyExams exams={myExams(context, results)} news={newResults(context, results)} />;
}
