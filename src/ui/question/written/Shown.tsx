import type { WrittenText, WrittenView } from '@/core/question/types/written/student';
import { RichText } from '../../kit/RichText';
import { AnswerShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';

export const WrittenShown = ({ response, fileLink }: ShownProps<WrittenView, WrittenText>) => (
  <>
    {response?.rich ? (
      <RichText rich={response.rich} className="bg-prussian-wash px-2 py-1" />
    ) : (
      <AnswerShown text={response?.text} />
    )}
    {response?.files && response.files.length > 0 && (
      <ul className="mt-1 px-2">
        {response.files.map((file) => (
          <li key={file.id}>{fileLink ? fileLink(file.id, file.name) : file.name}</li>
        ))}
      </ul>
    )}
  </>
);
