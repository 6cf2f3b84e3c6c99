/** Degrees Fahrenheit to Celsius. @see BIPM, The International System of Units, 9th ed., §2.3.4 */
export function celsiusFromFahrenheit(tempF: number): number {
  return ((tempF - 32) * 5) / 9;
}
