/** A share in whole percent, as it is said everywhere: "40 %". */
export const percentText = (share: number): string => `${(share * 100).toFixed(0)} %`;
