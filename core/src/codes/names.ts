/** Codes that a camera reads: QR (ISO/IEC 18004) and Data Matrix, ECC 200 (ISO/IEC 16022). */
export const SYMBOLOGIES = ['qr', 'datamatrix'] as const;
export type Symbology = (typeof SYMBOLOGIES)[number];

export const CODE_NAMES: Readonly<Record<Symbology, string>> = { qr: 'QR code', datamatrix: 'Data Matrix' };
