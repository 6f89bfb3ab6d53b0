import { PictureFile } from '../../parts/PictureFile';
import { DriveStation } from './DriveStation';
import { RoundPages } from '../round/RoundPages';
import { ROUND_RUN } from '../round/RoundRun';
import { DriveTake } from './DriveTake';
import type { WayPages } from '../pages';

export const drive: WayPages = {
  Drawing: RoundPages,
  stations: { drive: DriveStation },
  hold: null,
  run: {
    ...ROUND_RUN,
    program: (batch) =>
      batch.setup.faces.some((f) => f.content.kind === 'picture') ? <PictureFile batch={batch} /> : null,
  },
  Take: DriveTake,
};
