'use client';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { Button } from '@/ui/kit/Button';
import { Empty } from '@/ui/kit/Page';

/** Said where a page fails; its reference is the id of the request, under which the log tells what happened. */
export default function Failed({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  const { refresh } = useRouter();
  const [isTrying, begin] = useTransition();
  // What failed was read on the server: shown anew without asking it again, it would be the failure once more.
  const tryAgain = () =>
    begin(() => {
      refresh();
      reset();
    });
  return (
    <main className="mx-auto max-w-xl px-4 py-16">
      <Empty title="Something went wrong here">
        <p>
          What was saved before is safe. Try again; if it happens once more, tell whoever runs this server the
          reference.
        </p>
        <p className="mt-2 font-mono text-sm">{error.digest}</p>
        <Button look="main" className="mt-4" busy={isTrying} onClick={tryAgain}>
          Try again
        </Button>
      </Empty>
    </main>
  );
}
