import { useEffect, useRef, useState } from 'react';
import type { Treatment } from '@bistre/core';
import { pictureWorker } from '../data/picture-worker';

/** Millimetres of the work that are shown. */
const SHOWN = { width: 12, height: 8 };
const PX = { width: 360, height: 240 };

/** The middle of a picture as it will look, dot by dot, with the spot it is burned with. */
export const CloseUp = ({
  pictureId,
  across,
  interval,
  spot,
  treatment,
}: {
  pictureId: string;
  /** Width of the picture on the work, mm. */
  across: number;
  interval: number;
  spot: number;
  treatment: Treatment;
}) => {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [problem, setProblem] = useState(false);
  const { kernel, densest, gamma, negative } = treatment;
  useEffect(() => {
    let current = true;
    void pictureWorker()
      .closeUp(pictureId, across, SHOWN, interval, spot, { kernel, densest, gamma, negative }, PX)
      .then((seen) => {
        const g = canvas.current?.getContext('2d');
        if (!current || !g) return;
        canvas.current!.height = seen.height;
        const image = g.createImageData(seen.width, seen.height);
        // On a material that turns light where it is burned the picture shows light on dark.
        seen.pixels.forEach((shade, i) => {
          const v = negative ? 255 - shade : shade;
          image.data.set([v, v, v, 255], 4 * i);
        });
        g.putImageData(image, 0, 0);
        setProblem(false);
      })
      .catch(() => setProblem(current));
    return () => {
      current = false;
    };
  }, [pictureId, across, interval, spot, kernel, densest, gamma, negative]);
  return (
    <figure className="m-0">
      <canvas
        ref={canvas}
        width={PX.width}
        height={PX.height}
        role="img"
        aria-label="The middle of the picture as it will look"
        className="block w-full max-w-[360px] border border-hairline"
      />
      <figcaption className="mt-1 text-[13px] text-soft">
        {problem
          ? 'The picture cannot be shown: it is not kept any more.'
          : `${SHOWN.width} mm from its middle, burned by a spot of ${spot.toFixed(2)} mm every ${interval.toFixed(3)} mm`}
      </figcaption>
    </figure>
  );
};
