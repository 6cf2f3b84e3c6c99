/** Scans a tag's code with the camera of the tablet. */
import { ScanLine } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { isSecure, WantsHttps } from '../ui/Secure.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { pathOfTag } from './useScans.ts';

const LOOK_EVERY_MS = 200;

/** Looks at the camera until a code is read. */
function useCamera(onCode: (text: string) => void): {
  video: React.RefObject<HTMLVideoElement | null>;
  problem: string;
} {
  const video = useRef<HTMLVideoElement>(null);
  const [problem, setProblem] = useState('');
  const told = useRef(onCode);
  useEffect(() => {
    told.current = onCode;
  });
  useEffect(() => {
    let stream: MediaStream | undefined;
    let timer: ReturnType<typeof setInterval> | undefined;
    let isOver = false;
    const begin = async (): Promise<void> => {
      const [{ default: read }, opened] = await Promise.all([
        import('jsqr'),
        navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } }),
      ]);
      stream = opened;
      const shown = video.current;
      if (isOver || !shown) return stream.getTracks().forEach((track) => track.stop());
      shown.srcObject = stream;
      await shown.play();
      const canvas = document.createElement('canvas');
      const pen = canvas.getContext('2d', { willReadFrequently: true });
      timer = setInterval(() => {
        if (!pen || shown.videoWidth === 0) return;
        canvas.width = shown.videoWidth;
        canvas.height = shown.videoHeight;
        pen.drawImage(shown, 0, 0);
        const { data, width, height } = pen.getImageData(0, 0, canvas.width, canvas.height);
        const code = read(data, width, height);
        if (code) told.current(code.data);
      }, LOOK_EVERY_MS);
    };
    begin().catch(() =>
      setProblem('No camera can be used here; type the tag, or scan it with a hand scanner.'),
    );
    return () => {
      isOver = true;
      if (timer) clearInterval(timer);
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  return { video, problem };
}

function Viewfinder({ onDone }: { onDone: () => void }) {
  const navigate = useNavigate();
  const isBatch = useLocation().pathname === '/batch';
  const [says, setSays] = useState('');
  const { video, problem } = useCamera((text) => {
    pathOfTag(text, isBatch).then(
      (path) => {
        onDone();
        void navigate(path);
      },
      (error: unknown) => setSays(sentenceOf(error)),
    );
  });
  const sentence = problem === '' ? says : problem;
  return (
    <>
      <video
        ref={video}
        muted
        playsInline
        className="mt-3 aspect-video w-full rounded-lg bg-char object-cover"
      />
      {sentence !== '' && (
        <p role="alert" className="mt-2 text-clay">
          {sentence}
        </p>
      )}
    </>
  );
}

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
