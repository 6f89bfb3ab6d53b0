import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, type SimRunView } from '@bistre/contract';
import {
  effectiveHold,
  firstIsApproved,
  fixed,
  looksAtPieces,
  needsRoster,
  percent,
  screenPath,
  tracedOutline,
  tracedPieces,
  tracedSize,
} from '@bistre/core';
import { call, messageOf } from '../../data/api';
import { FileLinks } from '../../parts/FileLinks';
import { LongDrawing } from '../../drawing/LongDrawing';
import { PictureFile } from '../../parts/PictureFile';
import { Caution, Finding, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import type { StationProps } from '../props';
import { RosterDialog } from './RosterDialog';
import { asRun, CupResult } from '../sim/CupResult';
import { SimResult } from '../sim/SimResult';

import { Judge } from './Judge';
import { LetteringTable } from './LetteringTable';
import { Looks } from './Looks';
import { Measured } from './Measured';
/** Run: names, loads, the first piece, then the rest; every piece judged. */
export const RunStation = ({ handle, shown, draw }: StationProps) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const { run, art } = reckoning;
  const [bringing, setBringing] = useState(false);
  const [lettering, setLettering] = useState(false);
  const looks = looksAtPieces({ fixture: batch.fixture, setup: batch.setup, blank: batch.blank.spec });
  const [looking, setLooking] = useState(false);
  const traced = reckoning.cutLine ? effectiveHold(batch).sheet.traced : null;
  const waitsForNames = needsRoster(batch, batch.blank.spec.shape);
  const begun = batch.pieces.length > 0;
  const [result, setResult] = useState<SimRunView | null>(null);
  const [busy, setBusy] = useState(false);
  const shape = batch.blank.spec.shape;
  const loaded = batch.pieces
    .filter((p) => p.state === 'loaded')
    .map((p) => p.slot)
    .sort((a, b) => a - b);
  const simulate = async (): Promise<void> => {
    setBusy(true);
    try {
      if (reckoning.round) {
        const burned = await call(api.cupBurn, { params: { id: batch.id }, body: { what: 'piece' } });
        setResult(asRun(burned, batch.tolerance, reckoning.budget.predicted));
        draw({ node: <CupResult run={burned} round={reckoning.round} onClose={() => draw(null)} /> });
        return;
      }
      const value = await call(api.simRun, { params: { id: batch.id } });
      setResult(value);
      draw({
        node: (
          <SimResult
            run={value}
            length={traced ? tracedSize(traced).length : reckoning.sizes.length.mean}
            width={traced ? tracedSize(traced).width : reckoning.sizes.width.mean}
            bare={traced !== null}
            holes={reckoning.face.blank.holes}
            printed={
              traced
                ? new Map(
                    tracedPieces(traced).map(
                      (p, i) =>
                        [
                          i + 1,
                          {
                            fill: '',
                            line: screenPath(tracedOutline(p)[0]!),
                          },
                        ] as const,
                    ),
                  )
                : reckoning.cutLine
                  ? new Map(
                      reckoning.onTheBoard.flatMap(({ slot, ordinal }) => {
                        const path = reckoning.art?.paths[ordinal];
                        return path ? [[slot.slot, path] as const] : [];
                      }),
                    )
                  : null
            }
            disc={shape.kind === 'disc'}
            cornerRadius={shape.kind === 'rectangle' ? shape.cornerRadius : 0}
            onClose={() => draw(null)}
          />
        ),
      });
    } catch (error) {
      toast.error(messageOf(error), { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  const lookAtWork = async (): Promise<void> => {
    try {
      const { landed } = await call(api.simView, { params: { id: batch.id } });
      draw({ node: <LongDrawing shown={shown} landed={landed} onClose={() => draw(null)} /> });
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  const first = !firstIsApproved(batch.blank.spec.shape, batch);
  const waitingFirst = first && run.done > 0 && run.openLoad === null;
  const warnings = reckoning.warnings.filter((w) => w.station === 'run');
  const cutOut = (reckoning.feed ?? reckoning.photo) ? null : reckoning.cutOut;
  const segments = reckoning.long !== null && !reckoning.long.burned && run.openLoad !== null;
  const oneSide = cutOut !== null && reckoning.face.side === 'front' && run.openLoad !== null;
  const pictures = batch.setup.drive.faces.some((f) => f.content.kind === 'picture');
  return (
    <>
      <Part
        name="Measure"
        aside={
          batch.roster.length > 0 ? (
            <button className="link" onClick={() => setBringing(true)}>
              bring in another roster
            </button>
          ) : undefined
        }
      >
        {!waitsForNames && batch.roster.length === 0 ? (
          <p className="text-soft">
            {reckoning.long
              ? 'The art comes from its file; '
              : traced
                ? 'The pieces are printed already; '
                : 'Every piece carries the same art: '}
            no roster is needed.{' '}
            {reckoning.long && (
              <button className="link" onClick={() => setBringing(true)}>
                Bring one in all the same
              </button>
            )}
          </p>
        ) : batch.roster.length === 0 ? (
          <p>
            <button className="act act-main" onClick={() => setBringing(true)}>
              Bring in the roster
            </button>{' '}
            <span className="ml-2 text-soft">names and numbers, from CSV or a spreadsheet</span>
          </p>
        ) : begun && !lettering ? (
          <p>
            {batch.roster.length} names in{' '}
            {(reckoning.round ? batch.setup.lettering : reckoning.face.lettering).lines
              .map((l, i) => `${l.column} ${fixed(art?.capHeights[i] ?? l.capHeight)} mm`)
              .join(', ')}
            .{' '}
            <button className="link" onClick={() => setLettering(true)}>
              change the lettering
            </button>
          </p>
        ) : (
          <>
            {cutOut && <p className="part-title mt-1">Front</p>}
            <LetteringTable handle={handle} shown={shown} />
            {cutOut && (
              <>
                <p className="part-title mt-2">Back</p>
                <LetteringTable handle={handle} shown={shown} face="back" />
              </>
            )}
          </>
        )}
        {looks && batch.roster.length > 0 && !run.finished && (
          <div className="mt-2">
            <button className="link" onClick={() => setLooking(!looking)}>
              {looking ? 'leave the pieces' : 'look at the pieces: better face, defects'}
            </button>
            {looking && <Looks handle={handle} shown={shown} />}
          </div>
        )}
      </Part>
      <Part name="Reckon">
        <div className="grid grid-cols-4 gap-3">
          <Reading
            label="done"
            value={`${run.done}`}
            unit={`of ${batch.quantity}`}
            tone={run.finished ? 'inside' : 'plain'}
          />
          <Reading
            label={reckoning.round ? 'to come' : 'loads to come'}
            value={String(run.loadsLeft)}
            note={run.openLoad === null ? undefined : reckoning.round ? 'one is on' : `load ${run.openLoad} is on`}
          />
          <Reading
            label="scrapped"
            value={String(run.scrapped)}
            tone={run.scrapped > 0 ? 'attention' : 'plain'}
            note={run.yield === null ? undefined : `yield ${percent(run.yield)}`}
          />
          <Reading label="spare blanks" value={String(run.sparesLeft)} tone={run.sparesLeft < 0 ? 'out' : 'plain'} />
        </div>
        {warnings.slice(0, 4).map((w) => (
          <div key={w.message} className="mt-2">
            <Finding tone="out">{w.message}</Finding>
          </div>
        ))}
        {warnings.length > 4 && <p className="text-oxide">and {warnings.length - 4} more.</p>}
        {art && art.exceptions.filter((e) => e.kind === 'narrower' || e.kind === 'smaller').length > 0 && (
          <details className="mt-2">
            <summary className="cursor-pointer text-blue">
              {art.exceptions.length} lettered differently from the rest
            </summary>
            <ul className="max-h-28 overflow-auto text-[13px]">
              {art.exceptions.slice(0, 200).map((e) => (
                <li key={`${e.piece}-${e.line}`}>{e.message}</li>
              ))}
            </ul>
          </details>
        )}
      </Part>
      <Part name="Do">
        {run.finished ? (
          <Finding tone="inside">All {batch.quantity} pieces are done.</Finding>
        ) : (
          <>
            {run.openLoad === null && !waitingFirst && (
              <p className="mb-2">
                <button
                  className="act act-main"
                  disabled={(batch.roster.length === 0 && waitsForNames) || reckoning.photo?.free === 0}
                  onClick={() => {
                    setResult(null);
                    draw(null);
                    void handle.act(api.startLoad);
                  }}
                >
                  {shown.load.take}
                </button>{' '}
                <span className="ml-2 text-soft">{first ? 'the rest is held until it is approved' : ''}</span>
              </p>
            )}
            {batch.drive && pictures && <PictureFile batch={batch} />}
            <FileLinks
              batchId={batch.id}
              files={[
                ...(batch.drive && pictures ? [] : ([['load.gcode', 'G-code']] as const)),
                ['load.svg', 'SVG'],
                ['load.dxf', 'DXF'],
                ...(reckoning.round || reckoning.cutLine || reckoning.cutOut || reckoning.long
                  ? []
                  : ([['load.png', 'PNG']] as const)),
              ]}
              label={shown.load.burned}
            />
            <FileLinks
              batchId={batch.id}
              files={[
                ['setup.pdf', 'Setup sheet'],
                ...(reckoning.round
                  ? ([['template.pdf', 'Wrap template']] as const)
                  : ([['proof.pdf', '1:1 proof']] as const)),
                ['roster.csv', 'List'],
              ]}
              label="Papers"
            />
            <Caution>
              A person at the machine starts the burn: door shut, extraction on, eyewear for this wavelength, someone
              stays. Local rules and the maker’s instructions come first.
            </Caution>
            {reckoning.long && batch.simulated && (
              <p className="mt-2">
                <button className="act" onClick={() => void lookAtWork()}>
                  Look at the work on the simulated machine
                </button>
              </p>
            )}
            {run.openLoad !== null && !reckoning.long && (
              <p className="mt-2">
                <button className="act" disabled={busy} onClick={() => void simulate()}>
                  {busy
                    ? 'Running …'
                    : reckoning.round
                      ? 'Run the file on the simulated drive'
                      : 'Run the file on the simulated machine'}
                </button>
              </p>
            )}
          </>
        )}
      </Part>
      <Part name="Check">
        {segments && (
          <p>
            {reckoning.feed ? 'Stop' : 'Segment'} {reckoning.long?.current} is on.{' '}
            <Link className="link" to={`/batches/${batch.id}/${reckoning.feed ? 'feed' : 'place'}`}>
              Aim and burn it at the {reckoning.feed ? 'Feed' : 'Place'} station
            </Link>
            ; the work is judged when all of it is burned.
          </p>
        )}
        {oneSide && (
          <p>
            Side one is on.{' '}
            <Link className="link" to={`/batches/${batch.id}/place`}>
              Burn it and turn the sheet over at the Place station
            </Link>
            ; pieces are judged when both sides are burned.
          </p>
        )}
        {!oneSide && !segments && run.openLoad !== null && run.nextSlot !== null && (
          <Judge key={run.nextSlot} handle={handle} slot={run.nextSlot} run={result} rest={loaded} />
        )}
        {waitingFirst && (
          <div className="mb-2 border border-rim p-3">
            <p className="mb-2">
              The first piece is done. Is it as the customer wants it: place, size, depth, spelling?
            </p>
            <button
              className="act act-main"
              onClick={() => {
                draw(null);
                setResult(null);
                void handle.act(api.approveFirst, { body: { approved: true } });
              }}
            >
              Approve the first piece
            </button>
            <button
              className="act ml-2"
              onClick={() => {
                draw(null);
                setResult(null);
                void handle.act(api.startLoad);
              }}
            >
              Make another first piece
            </button>
          </div>
        )}
        <div className="mt-2">
          <Measured handle={handle} />
        </div>
        <Steps handle={handle} steps={shown.steps} station="run" part="check" />
      </Part>
      {bringing && <RosterDialog handle={handle} onClose={() => setBringing(false)} />}
    </>
  );
};
