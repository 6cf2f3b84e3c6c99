/** A tag, typed or scanned, leads to its battery from every view. */
import { Search } from 'lucide-react';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { sentenceOf } from '../api/client.ts';
import { CameraScan } from '../scan/CameraScan.tsx';
import { pathOfTag } from '../scan/useScans.ts';

export function TagSearch() {
  const navigate = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    const focusOnSlash = (event: KeyboardEvent): void => {
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
      if (event.key !== '/' || isTyping) return;
      event.preventDefault();
      field.current?.focus();
    };
    window.addEventListener('keydown', focusOnSlash);
    return () => window.removeEventListener('keydown', focusOnSlash);
  }, []);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const tag = field.current?.value ?? '';
    if (tag.trim() === '') return;
    try {
      const path = await pathOfTag(tag);
      setProblem('');
      if (field.current) {
        field.current.value = '';
        // The keyboard goes on to the battery.
        field.current.blur();
      }
      void navigate(path);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="relative w-full px-1.5" role="search">
      <Search aria-hidden className="mx-auto size-5 text-soft" />
      <input
        ref={field}
        data-scans=""
        aria-label="Scan or type a tag"
        title="Scan or type a tag ( / )"
        placeholder="Tag"
        maxLength={16}
        aria-invalid={problem !== ''}
        className="mt-1 min-h-12 w-full rounded-md border border-cork bg-card px-1 text-center text-sm uppercase placeholder:text-soft"
      />
      <CameraScan />
      {problem !== '' && (
        <p
          role="alert"
          className="absolute bottom-0 left-full z-30 ml-3 w-64 rounded-lg border-l-6 border-clay bg-clay-wash p-3 text-clay shadow-lg"
        >
          {problem}
        </p>
      )}
    </form>
  );
}
