import { z } from 'zod';
import { nothing, way } from './board';
import { rimFaces } from './drive';

export const cradle = way('cradle', z.object({ rimFaces }), nothing);
