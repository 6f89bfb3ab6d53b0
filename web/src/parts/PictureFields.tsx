import { z } from 'zod';
import { inRange, pictureTreatment } from '@bistre/contract';
import type { PictureOnFace } from '@bistre/core';
import { CloseUp } from './CloseUp';
import { Field, LiveFields, Measure } from './fields';

/** Middle tones are asked for as how dark they become, and kept as the gamma that makes them so. */
const SHADES = z.object({ middle: inRange('Middle tones', 0.2, 5, '', { reads: 'percent', digits: 0 }) });

type Pictured = Pick<PictureOnFace, 'pictureId' | 'width' | 'height' | 'darkness' | 'treatment'>;

/** How a picture becomes dots, with its middle as it will look. */
export const PictureFields = <C extends Pictured>({
  content,
  across,
  interval,
  spot,
  narrow = false,
  onChange,
}: {
  content: C;
  /** Width on the blank, interval of the lines and spot, mm. */
  across: number;
  interval: number;
  spot: number;
  /** Stands in a station’s sheet and not in a page of its own. */
  narrow?: boolean;
  onChange: (content: C) => void;
}) => {
  const { treatment } = content;
  const change = (part: Partial<Pictured['treatment']>): void =>
    onChange({ ...content, treatment: { ...treatment, ...part } });
  return (
    <div className={narrow ? 'mt-2 grid gap-2' : 'mt-3 grid grid-cols-[1fr_auto] gap-5 max-[800px]:grid-cols-1'}>
      <div>
        <p className="mb-2 text-[13px] text-soft">
          {content.width} × {content.height} dots, {Math.round(100 * content.darkness)} % dark
        </p>
        <LiveFields schema={pictureTreatment} value={treatment} onChange={change}>
          <Field at="kernel" />
          <div className="grid grid-cols-2 gap-3">
            <Field at="densest" />
            <Measure
              of={SHADES}
              at="middle"
              value={1 / treatment.gamma}
              onCommit={(middle) => change({ gamma: 1 / middle })}
            />
          </div>
          <Field at="negative" />
        </LiveFields>
        <p className="mt-1 text-[13px] text-soft">
          Glass: 70 % at most and the light parts, by common practice. Middle tones above 100 % burn darker.
        </p>
        {spot > 1.8 * interval && (
          <p className="mt-1 text-[13px] text-ochre">
            A burn as wide as the kerf covers {(spot / interval).toFixed(1)} lines: shades fill in, as the close-up
            shows. Lines about {spot.toFixed(2)} mm apart keep the dots apart, or lower the densest share.
          </p>
        )}
      </div>
      <CloseUp pictureId={content.pictureId} across={across} interval={interval} spot={spot} treatment={treatment} />
    </div>
  );
};
