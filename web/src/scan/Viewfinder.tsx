/** What the camera sees, looked at until a tag is read. */
import read from 'jsqr';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { sentenceOf } from '../api/client.ts';
import { takeScan } from './useScans.ts';

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
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
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

export function Viewfinder({ onDone }: { onDone: () => void }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [says, setSays] = useState('');
  const { video, problem } = useCamera((text) => {
    takeScan(text, pathname).then(
      (path) => {
        onDone();
        if (path !== undefined) void navigate(path);
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
