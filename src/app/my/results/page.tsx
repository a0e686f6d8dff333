import { page } from '@/app/pages';
import { myTotals } from '@/server/gradebook/myTotal';
import { myResults } from '@/server/release/myResults';
import { MyResults } from '@/ui/release/MyResults';

export const metadata = { title: 'My results' };

export default page((context) => {
  return <MyResults results={myResults(context)} totals={myTotals(context)} />;
});
