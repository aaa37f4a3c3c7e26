/** When an hour is, as a diary has it: "Tue 10 Mar, 10:00". */
export const whenOf = (at: number): string => {
  const date = new Date(at);
  const day = date.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' });
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  return `${day}, ${time}`;
};
