/** What the browser's tab says: the view, or over it whatever calls from the bench. */
const SHOP = 'Cork Ember';

let view = '';
let call: string | undefined;

function show(): void {
  document.title = call ?? (view === '' ? SHOP : `${view} · ${SHOP}`);
}

export function titleView(name: string): void {
  view = name;
  show();
}

/** @param text nothing calls without it */
export function titleCall(text: string | undefined): void {
  call = text;
  show();
}
