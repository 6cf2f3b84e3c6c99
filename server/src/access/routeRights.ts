/** What each route asks for. One that is not written down here answers nobody. */
import type { Right } from '@cork-ember/core/access/rights.ts';

/** Paths as the OpenAPI document has them. */
export const ROUTE_RIGHTS: Readonly<Record<string, Right>> = {
  'GET /api/openapi.json': 'arrive',
  'GET /api/trust': 'arrive',
  'GET /api/trust/authority.crt': 'arrive',
  'GET /api/session': 'arrive',
  'POST /api/session': 'arrive',
  'DELETE /api/session': 'arrive',
  'POST /api/session/badge': 'arrive',
  'POST /api/session/passphrase': 'arrive',
  'POST /api/session/touch': 'arrive',
  'POST /api/session/pin': 'read',
  'POST /api/tablets': 'arrive',
  // Whoever has the paper, or the address of the calendar, has been given it.
  'GET /api/check/{code}': 'arrive',
  'GET /api/feeds/{secret}.ics': 'arrive',
  // A probe has a key of its own, and comes no further.
  'POST /api/devices/{id}/readings': 'arrive',

  'GET /api/shop': 'read',
  'GET /api/shop/changes': 'read',
  'GET /api/types': 'read',
  'GET /api/types.csv': 'read',
  'GET /api/types.json': 'read',
  'GET /api/stock': 'read',
  'GET /api/clock': 'read',
  'GET /api/stream': 'read',
  'GET /api/instruments': 'read',
  'GET /api/bays': 'read',
  // A stop is anybody's who stands in the shop.
  'POST /api/bays/stop': 'read',
  'POST /api/bays/{bay}/stop': 'read',
  'GET /api/jobs/{id}/readings': 'read',
  'GET /api/jobs/{id}/readings.csv': 'read',
  'GET /api/devices/profiles': 'read',
  'GET /api/devices/profile.schema.json': 'read',
  'GET /api/devices/failings': 'read',
  'GET /api/bench': 'read',
  'GET /api/jobs': 'read',
  'POST /api/jobs/since': 'read',
  'GET /api/jobs/{id}': 'read',
  'GET /api/jobs/{id}/photos/{photo}': 'read',
  'GET /api/jobs/{id}/export': 'read',
  'GET /api/quarantine': 'read',
  'GET /api/batteries': 'read',
  'GET /api/batteries/{tag}': 'read',
  'GET /api/tags/next': 'read',
  'GET /api/ledger/ways': 'read',
  'GET /api/ledger/file': 'read',
  'GET /api/ledger/learned': 'read',
  'GET /api/ledger/shelf': 'read',
  'GET /api/machines': 'read',
  'GET /api/machines/{tag}': 'read',
  'GET /api/shelf': 'read',
  'GET /api/shelf/feed': 'read',
  'GET /api/claims': 'read',

  'GET /api/jobs/{id}/certificate.pdf': 'print',
  'GET /api/jobs/{id}/owner-sheet.pdf': 'print',
  'GET /api/jobs/{id}/warranty-record.pdf': 'print',
  'GET /api/labels.pdf': 'print',
  'GET /api/batteries/{tag}/label.pdf': 'print',
  'GET /api/batteries/{tag}/label.svg': 'print',
  'GET /api/batteries/{tag}/hand-over.pdf': 'print',
  'GET /api/machines/{tag}/label.pdf': 'print',
  'GET /api/shelf/calendar.ics': 'print',
  'GET /api/shelf/round.pdf': 'print',

  'POST /api/jobs': 'takeIn',
  'POST /api/deliveries': 'takeIn',
  'POST /api/jobs/{id}/events': 'record',
  'POST /api/jobs/{id}/photos': 'record',
  'POST /api/shelf/{tag}/entries': 'record',
  'POST /api/machines': 'record',
  'POST /api/machines/{tag}': 'record',
  'POST /api/stock': 'record',
  'POST /api/stock/spill': 'record',
  'POST /api/instruments/{id}/read': 'record',
  'POST /api/clock': 'record',
  'POST /api/claims': 'record',
  'POST /api/bays/{bay}/check': 'record',
  'POST /api/bays/{bay}/confirm': 'record',

  'POST /api/jobs/import': 'changeShop',
  'POST /api/shop/changes': 'changeShop',
  'POST /api/types/read': 'changeShop',
  'POST /api/devices/{id}/talk': 'changeShop',
  'POST /api/devices/{id}/off': 'changeShop',
  'POST /api/devices/{id}/key': 'changeShop',
  'POST /api/devices/{id}/fail': 'changeShop',
  'POST /api/ledger/learned': 'changeShop',
  'POST /api/shelf/feed': 'changeShop',
  'DELETE /api/shelf/feed': 'changeShop',
  'GET /api/copy': 'copyShop',

  'GET /api/customers': 'forget',
  'GET /api/customers/data': 'forget',
  'POST /api/customers/forget': 'forget',
  'POST /api/jobs/{id}/photos/{photo}/gone': 'forget',

  'GET /api/people': 'changePeople',
  'POST /api/people': 'changePeople',
  'POST /api/people/{id}': 'changePeople',
  'POST /api/people/{id}/badge': 'changePeople',
  'GET /api/tablets': 'changePeople',
  'POST /api/tablets/codes': 'changePeople',
  'DELETE /api/tablets/{id}': 'changePeople',
  'POST /api/access': 'changePeople',
  'GET /api/audit': 'readAudit',
  'GET /api/audit.csv': 'readAudit',
};

/** "/api/jobs/{id}" as what a path is held against; more exact paths stand before those with a place in them. */
const PATTERNS = Object.entries(ROUTE_RIGHTS)
  .map(([route, right]) => {
    const [method = '', path = ''] = route.split(' ');
    const pattern = path.replace(/[.]/g, '\\.').replace(/\{\w+\}/g, '[^/]+');
    return {
      route,
      method,
      pattern: new RegExp(`^${pattern}/?$`, 'i'),
      places: path.split('{').length,
      right,
    };
  })
  .sort((a, b) => a.places - b.places);

function found(method: string, path: string) {
  const asked = method === 'HEAD' ? 'GET' : method;
  return PATTERNS.find((one) => one.method === asked && one.pattern.test(path));
}

/** What a call asks for; undefined where there is no such route. */
export const rightOfRoute = (method: string, path: string): Right | undefined => found(method, path)?.right;

/** A route as it is written down, whatever stands in its places. */
export const patternOf = (method: string, path: string): string | undefined => found(method, path)?.route;
