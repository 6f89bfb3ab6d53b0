import { readTraced, traceArt, type ReadArt, type Result } from '@bistre/core';
import { greyOf } from '../pictures';
import { dotsPerInch, plainPng } from '../plain-png';

/** Traces a picture that is black and white by nature: lettering, a stamp. One with shades is refused. */
export const readPictureArt = async (bytes: Buffer, name: string): Promise<Result<ReadArt>> => {
  const { png } = await plainPng(bytes, name);
  const traced = traceArt(await greyOf(png));
  return traced.ok ? readTraced(traced.value, await dotsPerInch(bytes)) : traced;
};
