/** When doors open that do so `before` minutes before `start` (HH:mm); around midnight that is the evening before. */
export function usualDoors(start: string, before: number): string {
  const [hours, minutes] = start.split(':').map(Number);
  const at = ((((hours ?? 0) * 60 + (minutes ?? 0) - before) % 1440) + 1440) % 1440;
  return [Math.floor(at / 60), at % 60].map((part) => String(part).padStart(2, '0')).join(':');
}
