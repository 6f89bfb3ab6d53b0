import { useState } from 'react';
import { fixed, looksAtPieces, needsRoster, percent, wayOf } from '@bistre/core';
import { FileLinks } from '../../parts/FileLinks';
import { BurnCaution, Finding, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import type { StationProps } from '../../ways/pages';
import { Approval } from './Approval';
import { RosterDialog } from './RosterDialog';
import { ContentsFields } from './contents/Contents';
import { LetteringTable } from './LetteringTable';
import { Looks } from './Looks';
import { Measured } from './Measured';

/** What goes on the pieces: names by their lettering, what lies in the zones, and what was seen of each. */
const Lettered = ({ handle, shown, draw, pages, onBring }: StationProps & { onBring: () => void }) => {
  const { batch } = handle;
  const made = pages.run;
  const { reckoning } = shown;
  const { run, art } = reckoning;
  const [lettering, setLettering] = useState(false);
  const looks = looksAtPieces(batch);
  const [looking, setLooking] = useState(false);
  const waitsForNames = needsRoster(batch);
  const begun = batch.pieces.length > 0;
  const noNames = made.noNames(shown);
  return (
    <>
      {!waitsForNames && batch.roster.length === 0 ? (
        <p className="text-soft">
          {noNames.words}: no roster is needed.{' '}
          {noNames.bring && (
            <button className="link" onClick={() => onBring()}>
              Bring one in all the same
            </button>
          )}
        </p>
      ) : batch.roster.length === 0 ? (
        <p>
          <button className="act act-main" onClick={() => onBring()}>
            Bring in the roster
          </button>{' '}
          <span className="ml-2 text-soft">names and numbers, from CSV or a spreadsheet</span>
        </p>
      ) : begun && !lettering ? (
        <p>
          {batch.roster.length} names in{' '}
          {reckoning.face.lettering.lines
            .map((l, i) => `${l.column} ${fixed(art?.capHeights[i] ?? l.capHeight)} mm`)
            .join(', ')}
          .{' '}
          <button className="link" onClick={() => setLettering(true)}>
            change the lettering
          </button>
        </p>
      ) : (
        <>
          {made.bothFaces && <p className="part-title mt-1">Front</p>}
          <LetteringTable handle={handle} shown={shown} />
          {made.bothFaces && (
            <>
              <p className="part-title mt-2">Back</p>
              <LetteringTable handle={handle} shown={shown} face="back" />
            </>
          )}
        </>
      )}
      {(wayOf(batch).carries(batch).length > 0 || (batch.setup.contents ?? []).length > 0) && (
        <ContentsFields handle={handle} shown={shown} onPlace={() => draw({ placing: true })} />
      )}
      {looks && batch.roster.length > 0 && !run.finished && (
        <div className="mt-2">
          <button className="link" onClick={() => setLooking(!looking)}>
            {looking ? 'leave the pieces' : 'look at the pieces: better face, defects'}
          </button>
          {looking && <Looks handle={handle} shown={shown} />}
        </div>
      )}
    </>
  );
};

/** The files of the load, and its papers. */
const RunFiles = ({ handle: { batch }, shown, pages: { run: made } }: StationProps) => {
  const program = made.program?.(batch) ?? null;
  const { papers, programs } = wayOf(batch).files;
  const wraps = papers?.includes('template');
  return (
    <>
      <FileLinks
        batchId={batch.id}
        files={[
          ...(program ? [] : ([['load.gcode', 'G-code']] as const)),
          ['load.svg', 'SVG'],
          ['load.dxf', 'DXF'],
          ...(made.dots(shown) ? ([['load.png', 'PNG']] as const) : []),
          ...(programs.target ? ([['target.gcode', 'Walk of one target']] as const) : []),
        ]}
        label={shown.load.burned}
      />
      <FileLinks
        batchId={batch.id}
        files={[
          ['setup.pdf', 'Setup sheet'],
          ...(wraps ? ([['template.pdf', 'Wrap template']] as const) : []),
          ...(programs.target ? ([['target.pdf', 'Target of one']] as const) : []),
          ['proof.pdf', 'Proof, each kind'],
          ['proof-all.pdf', 'Proof, every piece'],
          ['piece.png', 'Picture of one'],
          ...(wayOf(batch).places ? ([['load-card.pdf', 'Load card']] as const) : []),
          ['labels.pdf', 'Labels'],
          ['roster.csv', 'List'],
          ['job.zip', 'One file of all'],
        ]}
        label="Papers"
      />
    </>
  );
};

/** Run: names, loads, the first piece, then the rest; every piece judged. */
export const RunStation = (props: StationProps) => {
  const { handle, shown, pages } = props;
  const { batch } = handle;
  const made = pages.run;
  const { reckoning } = shown;
  const { run, art } = reckoning;
  const [bringing, setBringing] = useState<'another' | 'now' | null>(null);
  // While a load is on what is judged is in sight, and the rest behind a link.
  const on = run.openLoad !== null;
  const [opened, setOpened] = useState(false);
  const [filed, setFiled] = useState(false);
  // Passed with a reason: out of tolerance, or though its load was doubted.
  const outside = batch.pieces.filter((p) => p.state === 'done' && p.cause);
  const warnings = reckoning.warnings.filter((w) => w.station === 'run');
  return (
    <>
      <Part
        name="Measure"
        aside={
          batch.roster.length > 0 ? (
            <span className="flex gap-4">
              <button className="link" onClick={() => setBringing('now')}>
                put names right
              </button>
              <button className="link" onClick={() => setBringing('another')}>
                bring in another roster
              </button>
            </span>
          ) : undefined
        }
      >
        {on && !opened ? (
          <button className="link" onClick={() => setOpened(true)}>
            names, lettering and what lies in the zones
          </button>
        ) : (
          <Lettered {...props} onBring={() => setBringing('another')} />
        )}
      </Part>
      <Part name="Reckon">
        <div className="readings readings-four">
          <Reading
            label="done"
            value={`${run.done}`}
            unit={`of ${batch.quantity}`}
            tone={run.finished ? 'inside' : 'plain'}
            note={outside.length > 0 ? `${outside.length} with a reason` : undefined}
          />
          <Reading
            label={made.alone ? 'to come' : 'loads to come'}
            value={String(run.loadsLeft)}
            note={run.openLoad === null ? undefined : made.alone ? 'one is on' : `load ${run.openLoad} is on`}
          />
          <Reading
            label="scrapped"
            value={String(run.scrapped)}
            tone={run.scrapped > 0 ? 'attention' : 'plain'}
            note={run.yield === null ? undefined : `${percent(run.yield)} passed`}
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
            <summary className="cursor-pointer py-3 text-blue">
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
      {!run.finished && (
        <Part name="Do">
          <>
            {!on && <Approval handle={handle} />}
            {made.program?.(batch)}
            {on && !filed ? (
              <p className="mb-2">
                <button className="link" onClick={() => setFiled(true)}>
                  files and papers
                </button>
              </p>
            ) : (
              <RunFiles {...props} />
            )}
            <Steps handle={handle} steps={shown.steps.filter((s) => s.shops)} station="run" part="do" />
            <BurnCaution>Local rules and the maker’s instructions come first.</BurnCaution>
            <made.Simulated {...props} />
          </>
        </Part>
      )}
      <Part name="Check">
        <div className="mt-2">
          <Measured handle={handle} shown={shown} />
        </div>
        <Steps handle={handle} steps={shown.steps} station="run" part="check" />
      </Part>
      {bringing && <RosterDialog handle={handle} now={bringing === 'now'} onClose={() => setBringing(null)} />}
    </>
  );
};
