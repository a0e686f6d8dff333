import type { OrderingResponse, OrderingView } from '@/core/question/types/ordering/student';
import { RichText } from '../../kit/RichText';
import type { ShownProps } from '../playing';

/** The items in the order they were put in; as they stood on the paper where nothing was. */
export function OrderingShown({ view, response }: ShownProps<OrderingView, OrderingResponse>) {
  const order = response?.order ?? view.items.map((item) => item.key);
  const List = response ? 'ol' : 'ul';
  return (
    <List className={`border-y border-line ${response ? 'bg-prussian-wash' : ''}`}>
      {order.map((key, i) => {
        const item = view.items.find((one) => one.key === key);
        return (
          <li key={key} className="flex gap-3 border-b border-line px-2 py-1.5 last:border-b-0">
            {response && <span className="w-5 shrink-0 text-ink-2">{i + 1}</span>}
            {item && <RichText rich={item.content} className="min-w-0 flex-1" />}
          </li>
        );
      })}
    </List>
  );
}
