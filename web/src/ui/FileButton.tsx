/** A button that asks for files: hit with a glove, reached by keyboard, and ready for the same file once more. */
import { useRef, type ReactNode } from 'react';
import { Button } from './Button.tsx';

interface FileButtonProps {
  /** What is asked for, for whoever does not see it. */
  readonly name: string;
  /** Kinds, as an input of files has them. */
  readonly accept: string;
  readonly isSeveral?: boolean;
  readonly isDisabled?: boolean;
  readonly onFiles: (files: readonly File[]) => void;
  readonly className?: string;
  readonly children: ReactNode;
}

export function FileButton(props: FileButtonProps) {
  const { name, accept, isSeveral = false, isDisabled = false, onFiles, className, children } = props;
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        multiple={isSeveral}
        aria-label={name}
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          target.value = '';
          if (files.length > 0) onFiles(files);
        }}
      />
      <Button className={className} disabled={isDisabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </>
  );
}
