import { KerfCheck } from '../../stations/hold/KerfCheck';
import { BoardFiles } from './BoardFiles';
import { BoardReckon } from './BoardReckon';

/** What the Hold station shows of every board with pockets; its settings are its way's own. */
export const POCKET_HOLD = { Reckon: BoardReckon, Files: BoardFiles, Check: KerfCheck, aids: true } as const;
