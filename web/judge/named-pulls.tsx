import { Fragment } from 'react';
import { Link } from 'react-router';
import { useRetold } from '../base/retold.ts';
import { partedByLabels } from './parted-by-labels.ts';

/** A text in the reader's units, in which every pull it names leads to its row. */
export function NamedPulls({
  children,
  testId,
  labels,
}: {
  children: string;
  testId: string;
  labels: readonly string[];
}) {
  const text = useRetold()(children);
  return (
    <>
      {partedByLabels(text, labels).map((part, i) =>
        part.label ? (
          <Link key={i} to={`/tests/${testId}/pulls#${encodeURIComponent(part.text)}`}>
            {part.text}
          </Link>
        ) : (
          <Fragment key={i}>{part.text}</Fragment>
        ),
      )}
    </>
  );
}
