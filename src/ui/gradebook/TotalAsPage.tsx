import type { OwnTotal } from '@/server/gradebook/myTotal';
import { PageFrame, PageTitle } from '../kit/Page';
import { TextLink } from '../kit/TextLink';
import { OwnTotalPage } from './OwnTotalPage';

/** A student's total as they see it, for an instructor. */
export const TotalAsPage = ({ base, total }: { base: string; total: OwnTotal & { isShown: boolean } }) => (
  <PageFrame width="reading">
    <PageTitle
      title={`As ${total.student} sees it`}
      back={{ href: `${base}/gradebook`, name: 'Gradebook' }}
      note={
        total.isShown ? (
          'Students of this course see their own total.'
        ) : (
          <>
            Students of this course see no total. Whether they do is set under{' '}
            <TextLink href={`${base}/gradebook/rules`}>Columns and weights</TextLink>.
          </>
        )
      }
    />
    <div className="border border-edge bg-paper px-6 py-5">
      <OwnTotalPage total={total} linked={false} />
    </div>
  </PageFrame>
);
