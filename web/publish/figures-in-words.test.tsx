import { describe, expect, it } from 'vitest';
import { html, text } from '../__tests__/rendered.tsx';
import { FiguresTyped } from '../base/figures-typed.tsx';
import { FiguresInWords } from './figures-in-words.tsx';

describe('figures in words', () => {
  it('are told to a reviewer with where they stand, and long texts are cut in sight', () => {
    const message = 'gain +15 hp at 4000 rpm: this test supports 5.4 to 8.0 hp there, at the wheel.';
    const long = `${'It pulls very well. '.repeat(20)}+15 hp at 4000 rpm.`;
    const shown = text(
      <FiguresInWords
        figures={[
          { place: 'the question of the test', text: '+15 hp at 4000 rpm?', message },
          { place: 'the bench’s record', text: long, message },
        ]}
      />,
    );
    expect(shown).toContain(`◐ ${message}`);
    expect(shown).toContain('In the question of the test: “+15 hp at 4000 rpm?”');
    expect(shown).toContain('In the bench’s record: “It pulls');
    expect(shown).toContain('…”');
    expect(shown).not.toContain(long);
  });
  it('nothing is said where nothing is wrong', () => {
    expect(html(<FiguresInWords figures={[]} />)).toBe('');
    expect(text(<FiguresTyped text="It read 131 hp at 5600 rpm and 230 N·m at 4000 rpm." />)).toBe('');
  });
  it('what is typed is told at once', () => {
    expect(text(<FiguresTyped text="It read 131 hp and 131 N·m at 4000 rpm." />)).toMatch(
      /◐ 131 hp at 4000 rpm and 131 N·m at 4000 rpm do not belong together: that torque makes 73\.6 hp/,
    );
  });
});
