import type { Metadata } from 'next';
import { myResults } from '@/server/release/myResults';
import { MyResults } from '@/ui/release/MyResults';
import { pageContext } from '../../request';

export const metadata: Metadata = { title: 'My results' };

export default async function MyResultsPage() {
  return <MyResults results={myResults(await pageContext())} />;
}
