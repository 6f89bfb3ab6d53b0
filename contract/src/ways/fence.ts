import { inRange } from '../limits';
import { boardChoice, nothing, way } from './board';

export const pushRoom = inRange('Room to push', 0.5, 50, 'mm', { hint: 'Every piece goes to the front left corner.' });
export const fence = way('fence', boardChoice.extend({ pushRoom }), nothing);
