import { richText } from '@/core/base/rich';
import type { GapFillResponse, GapFillView } from '@/core/question/types/gap-fill/student';
import { RichText } from '../../kit/RichText';
import type { ShownProps } from '../playing';

/** The running text with what was entered in each gap; where nothing was, what there is to choose from. */
export const GapFillShown = ({ view, response }: ShownProps<GapFillView, GapFillResponse>) => (
  <RichText
    rich={view.stem}
    className="text-lg leading-[1.9]"
    gap={(id) => {
      const gap = view.gaps.find((one) => one.id === id);
      const given = response?.gaps[id];
      const options = gap?.kind === 'pick' ? gap.options : [];
      const picked = options.find((option) => option.key === given);
      const said = picked ? richText(picked.content) : given;
      return said ? (
        <span className="mx-1 border-b-2 border-prussian bg-prussian-wash px-1.5">{said}</span>
      ) : (
        <span className="mx-1 border-b-2 border-edge px-3 text-ink-2">
          {options.map((option) => richText(option.content)).join(' / ')}
          <span className="sr-only">{response ? 'empty' : 'a gap'}</span>
        </span>
      );
    }}
  />
);
