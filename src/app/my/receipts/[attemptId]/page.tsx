import { redirect } from 'next/navigation';
import { orNotFound, page } from '@/app/pages';
import { seeReceipt } from '@/server/attempt/handIn';
import { ReceiptPage } from '@/ui/attempt/ReceiptPage';

export const metadata = { title: 'Receipt' };

export default page<'attemptId'>((context, { attemptId }) => {
  const receipt = orNotFound(seeReceipt(context, attemptId));
  // The device follows what the class goes through together.
  if (receipt.isRound && receipt.standing.kind === 'handed-in') redirect(`/in/${receipt.sittingId}`);
  return <ReceiptPage receipt={receipt} />;
});
