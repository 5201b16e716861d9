export const markText = ({ kind, number }: { kind: string; number: string }) =>
  kind === "pit" ? `${number.slice(0, 3)} ${number.slice(3)}` : number;
