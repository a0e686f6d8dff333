'use client';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { counted } from '@/core/base/words';
import { ButtonLink } from '../kit/Button';
import { Done } from '../kit/Done';
import { PageFrame, PageTitle } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { Unkept } from '../kit/Unkept';
import { BringInPreview } from './BringInPreview';
import { BringInSources } from './BringInSources';
import { type BringInCommands, useBringIn } from './useBringIn';

type Props = {
  base: string;
  categories: CategoryNode[];
  otherBanks: { name: string; href: string }[];
  /** Alphabets in which a file may be written: their names, and what they are called. */
  letters: [string, string][];
  commands: BringInCommands;
};

/** Questions from a text, a document or a table: read, looked through, then taken in under one undo. And the way out. */
export function BringInPage({ base, categories, otherBanks, letters, commands }: Props) {
  const bringing = useBringIn(base, categories[0]?.id ?? '', commands);
  const { preview, done } = bringing;
  return (
    <PageFrame>
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
          {done.added < done.of
            ? `Stopped: ${done.added} of ${counted(done.of, 'question')} brought in`
            : `${counted(done.added, 'question')} brought in`}
          {bringing.text ? '; what was not taken stands below, to be mended' : ''}.{' '}
          <TextLink href={`${base}?sort=written&down=yes`}>Look at them</TextLink>
        </Done>
      )}
      {bringing.broughtBack && !done && !preview && (
        <Done className="mb-3 border border-line" onUndo={null}>
          You had begun to bring this in: what you said of its lines is remembered. Read it to go on.{' '}
          <TextButton onClick={bringing.giveUp}>Give it up</TextButton>
        </Done>
      )}
      <Unkept on={bringing.isUnfinished && !bringing.isKept} title="Leave before it is brought in?" act="Leave it">
        This browser has no room to keep what you pasted: it is gone once you leave.
      </Unkept>
      <Problems problems={bringing.problems} className="mb-3" />
      {preview ? (
        <BringInPreview bringing={bringing} preview={preview} categories={categories} letters={letters} />
      ) : (
        <BringInSources bringing={bringing} otherBanks={otherBanks} />
      )}
    </PageFrame>
  );
}
