/** Leads on, with everything fetched anew: another person sees other things. */
export function goTo(address: string): void {
  // Only within this house: what stands in an address was not written by us.
  const inside = /^\/(?![/\\])/.test(address) ? address : '/season';
  window.location.assign(inside);
}
