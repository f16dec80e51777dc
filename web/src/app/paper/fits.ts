import { awaited, email, fits, integer, quantity, unitPrice } from '@nockwright/contract/shape';

/** Whether a text is a quantity, 0 or more, as the contract takes it: with at most four decimals. */
export const isQuantity = (text: string): boolean => fits(awaited(), text);

/** The same above 0. */
export const isPositive = (text: string): boolean => fits(quantity(), text);

/** A unit price or cost, 0 or more. */
export const isPrice = (text: string): boolean => fits(unitPrice(), text);

export const isEmail = (text: string): boolean => fits(email(), text);

/** A whole number from 0 on, written out. */
export const isWhole = (text: string, most = 9999): boolean => text.trim() !== '' && fits(integer(0, most), Number(text));
