import { ButtonLink } from '@/ui/kit/Button';
import { Empty } from '@/ui/kit/Page';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl px-4 py-16">
      <Empty title="There is nothing at this address">
        <p className="mb-4">It may have been removed, or it belongs to a course you have no part in.</p>
        <ButtonLink href="/" look="main">
          To where your work is
        </ButtonLink>
      </Empty>
    </main>
  );
}
