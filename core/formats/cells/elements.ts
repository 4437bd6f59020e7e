/** Symbols of the chemical elements in the order of their atomic numbers (IUPAC periodic table). */
const symbols =
  'H He Li Be B C N O F Ne Na Mg Al Si P S Cl Ar K Ca Sc Ti V Cr Mn Fe Co Ni Cu Zn Ga Ge As Se Br Kr Rb Sr Y Zr Nb Mo Tc Ru Rh Pd Ag Cd In Sn Sb Te I Xe Cs Ba La Ce Pr Nd Pm Sm Eu Gd Tb Dy Ho Er Tm Yb Lu Hf Ta W Re Os Ir Pt Au Hg Tl Pb Bi Po At Rn Fr Ra Ac Th Pa U Np Pu Am Cm Bk Cf Es Fm Md No Lr Rf Db Sg Bh Hs Mt Ds Rg Cn Nh Fl Mc Lv Ts Og'.split(
    ' ',
  );
const numbers = new Map(symbols.map((s, i) => [s, i + 1]));

/** The atomic number of a symbol, or null. */
export const atomicNumber = (symbol: string): number | null => numbers.get(symbol) ?? null;

export const elementSymbol = (atomic: number): string | null => symbols[atomic - 1] ?? null;
