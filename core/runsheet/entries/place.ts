/** Where a battery stands: in a bay of the bench, or on the shelf, where it rests and holds and takes no charger. */

/** The place without a charger; any number of batteries stand on it. */
export const SHELF = 0;

/** "bay 3", "the shelf". */
export const placeText = (bay: number): string => (bay === SHELF ? 'the shelf' : `bay ${bay}`);

/** "in bay 3", "on the shelf". */
export const standsText = (bay: number): string => (bay === SHELF ? 'on the shelf' : `in bay ${bay}`);
