import { doubtsInWords } from '../../core/publish/figures-in-words.ts';

/** Powers and torques in a text that cannot belong together: told as it is typed, and kept as they are written. */
export function FiguresTyped({ text }: { text: string }) {
  return (
    <div role="status" className="text-[12.5px] text-ask">
      {doubtsInWords(text).map(({ message }) => (
        <p key={message}>◐ {message}</p>
      ))}
    </div>
  );
}
