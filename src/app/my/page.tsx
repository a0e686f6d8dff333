import type { Metadata } from 'next';
import { myExams } from '@/server/attempt/myExams';
import { MyExams } from '@/ui/attempt/MyExams';
import { pageContext } from '../request';

export const metadata: Metadata = { title: 'My exams' };

export default async function MyExamsPage() {
  const context = await pageContext();
  return <MyExams exams={myExams(context)} />;
}
