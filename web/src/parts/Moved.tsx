import { moveWords, pieceCount, type CorrectionReckoning } from '@bistre/core';

/** What was moved and holds: by how much, by whom, from what. */
export const Moved = ({ inForce }: Pick<CorrectionReckoning, 'inForce'>) =>
  inForce.length > 0 && (
    <ul aria-label="Moves of the burn" className="mt-2 text-[14px]">
      {inForce.map((c) => (
        <li key={c.id}>
          <b>Moved {moveWords(c)}</b> after load {c.load}, by {pieceCount(c.pieces)} measured; {c.by},{' '}
          {new Date(c.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}.
        </li>
      ))}
    </ul>
  );
