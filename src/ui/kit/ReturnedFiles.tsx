import { FileLink } from './FileLink';
/** Files that a marker has written into and given back, to be taken. */
export const ReturnedFiles = ({
  files,
  label,
  className,
}: {
  files: readonly { id: string; name: string }[];
  label?: string;
  className: string;
}) =>
  files.length > 0 && (
    <ul aria-label={label} className={className}>
      {files.map((file) => (
        <li key={file.id}>
          <FileLink href={`/returned-files/${file.id}`} download>
            {file.name}
          </FileLink>
        </li>
      ))}
    </ul>
  );
