/** What is known of the visitor, sealed by the server: it is sent along with everything. */
let known = "";

export const arrivalInUse = (): string => known;

export function takeArrival(arrival: string | undefined): void {
  if (arrival) known = arrival;
}
