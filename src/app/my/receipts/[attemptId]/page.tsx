import { orNotFound, page } from '@/app/pages';
import { seeReceipt } from '@/server/attempt/handIn';
import { ReceiptPage } from '@/ui/attempt/ReceiptPage';

export const metadata = { title: 'Receipt' };

export default page<'attemptId'>((context, { attemptId }) => (
  <ReceiptPage receipt={orNotFound(seeReceipt(context, attemptId))} />
));
