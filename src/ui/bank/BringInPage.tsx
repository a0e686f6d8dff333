'use client';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { counted } from '@/core/base/words';
import { ButtonLink } from '../kit/Button';
import { Done } from '../kit/Done';
import { PageTitle } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { BringInPreview } from './BringInPreview';
import { BringInSources } from './BringInSources';
import { type BringInCommands, useBringIn } from './useBringIn';

type Props = {
  base: string;
  categories: CategoryNode[];
  otherBanks: { name: string; href: string }[];
  commands: BringInCommands;
};

/** Questions from a text, a document or a table: read, looked through, then taken in under one undo. And the way out. */
export function BringInPage({ base, categories, otherBanks, commands }: Props) {
  const bringing = useBringIn(base, categories[0]?.id ?? '', commands);
  const { preview, done } = bringing;
  return (
    <div className="min-w-0">
      <PageTitle title="Bring in, take out" back={{ href: base, name: 'The bank' }}>
        <ButtonLink href={`${base}/take-out?as=csv`} download>
          Take out as CSV
        </ButtonLink>
        <ButtonLink href={`${base}/take-out?as=xlsx`} download>
          Take out as XLSX
        </ButtonLink>
      </PageTitle>
      {done && (
        <Done className="mb-3 border border-line" onUndo={() => bringing.undo(done.auditId)}>
          {counted(done.added, 'question')} brought in
          {bringing.text ? '; what was not taken stands below, to be mended' : ''}.{' '}
          <TextLink href={`${base}?sort=written&down=yes`}>Look at them</TextLink>
        </Done>
      )}
      <Problems problems={bringing.problems} className="mb-3" />
      {preview ? (
        <BringInPreview bringing={bringing} preview={preview} categories={categories} />
      ) : (
        <BringInSources bringing={bringing} otherBanks={otherBanks} />
      )}
    </div>
  );
}
