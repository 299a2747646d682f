import { figure } from './format'

/** Takes a typed number, its unit or not behind it, or says why not. */
export function takeNumber(
  text: string,
  name: string,
  unit: string,
  [min, max]: readonly [number, number],
  take: (value: number) => void,
  whole = false,
): string | null {
  const number = text
    .trim()
    .replace(/\s*[a-z%]+$/i, '')
    .replace('\u2212', '-')
    .replace(',', '.')
  const found = number === '' ? NaN : Number(number)
  if (!(found >= min && found <= max) || (whole && !Number.isInteger(found)))
    return `${name} runs from ${figure(min, min % 1 ? 2 : 0)} to ${figure(max, 0)}${unit ? ` ${unit}` : ''}${whole ? ', in whole numbers' : ''}.`
  take(found)
  return null
}
