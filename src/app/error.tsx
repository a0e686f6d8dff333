'use client';
import { Button } from '@/ui/kit/Button';
import { Empty } from '@/ui/kit/Page';

export default function Failed({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl px-4 py-16">
      <Empty title="Something went wrong here">
        <p>
          What was saved before is safe. Try again; if it happens once more, tell whoever runs this server the
          reference.
        </p>
        <p className="mt-2 font-mono text-sm">{error.digest}</p>
        <Button look="main" className="mt-4" onClick={reset}>
          Try again
        </Button>
      </Empty>
    </main>
  );
}
