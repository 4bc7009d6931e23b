import { toString } from 'qrcode';

/** Whether other devices reach this Vane by the address that adults know; otherwise it was started for its own machine alone. */
const isReachable = (publicUrl: string): boolean => {
  const { hostname } = new URL(publicUrl);
  return hostname !== 'localhost' && !hostname.startsWith('127.');
};

/** An address of this Vane as a QR code (SVG), to be photographed with another device; null where no other device reaches it. */
export const qrFor = async (publicUrl: string, address: string): Promise<string | null> =>
  isReachable(publicUrl) ? toString(address, { type: 'svg', margin: 2 }) : null;
