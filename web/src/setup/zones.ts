/** Time zones as they are chosen; the one a browser knows under another name is offered too. */
export const ZONES = [...new Set(['Etc/UTC', ...Intl.supportedValuesOf('timeZone')])].map((value) => ({
  value,
  label: value.replaceAll('_', ' '),
}));
