/** One line of a calculation, as it would stand on the board. */
export interface Working {
  label: string;
  line: string;
}
