/** Scans a tag's code with the camera of the tablet. */
import { ScanLine } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { later } from '../ui/later.tsx';
import { isSecure, WantsHttps } from '../ui/Secure.tsx';

const Viewfinder = later(async () => (await import('./Viewfinder.tsx')).Viewfinder);

export function CameraScan() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="mt-1 flex min-h-12 w-full items-center justify-center rounded-md text-soft hover:text-char"
        aria-label="Scan a tag with the camera"
        title="Scan a tag with the camera"
      >
        <ScanLine aria-hidden className="size-5" />
      </button>
      <Dialog
        isOpen={isOpen}
        onClose={() => setOpen(false)}
        title="Hold the tag before the camera"
        said="It opens by itself once it is read."
      >
        {isSecure() ? (
          <Viewfinder onDone={() => setOpen(false)} />
        ) : (
          <p className="mt-3">
            <WantsHttps what="The camera" onGo={() => setOpen(false)} /> Until then type the tag, or use a
            hand scanner.
          </p>
        )}
        <Button className="mt-4 w-full" onClick={() => setOpen(false)}>
          Close
        </Button>
      </Dialog>
    </>
  );
}
