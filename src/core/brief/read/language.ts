/**
 * Whether a statement is in a language that the reader knows. Half-understood words would turn a floor into
 * a ceiling.
 */
import type { Token } from "./tokens";

/** Frequent small words of other languages that English does not have (from memory). */
const FOREIGN = new Set(
  (
    "der das und nicht ist ein eine einen einer dem den des mit für auf sein oder als darf muss " +
    "müssen werden wird bitte datei bild foto höchstens mindestens größer kleiner " +
    ("le la les et est une pas dans pour avec sur ou doit doivent entre moins plus fichier être au " +
      "aux du ne que ") +
    "el los las y es una no con para por debe deben entre menos más archivo ser que o del tamaño imagen " +
    "il lo gli un non di della che deve essere tra meno più file immagine sono " +
    "het een niet van voor met moet mag zijn wordt bestand groter kleiner dan " +
    "ett och inte är med för på skal må være ikke av eller ska får vara bilden " +
    "nie jest się musi plik zdjęcie nesmí musí soubor kuva tiedosto ei saa olla não deve ficheiro são"
  ).split(" "),
);
const ENGLISH = new Set(
  (
    "the a an and or of to in on for with is are be must should may not no at by from as your our " +
    "you we it its this that file files size least most than more less " +
    ("picture pictures photo photos image images between per all each only please any either neither " +
      "will can up over under width height wide high format resolution colour color ") +
    "minimum maximum max min pixels pixel below above exceed larger smaller longest shortest side edge in plus"
  ).split(" "),
);

/** Words that are in both lists say nothing. */
export function isForeign(...runs: (readonly Token[])[]): boolean {
  let [foreign, english, letters] = [0, 0, 0];
  for (const tokens of runs)
    for (const token of tokens) {
      if (token.kind !== "word") continue;
      const [there, here] = [FOREIGN.has(token.text), ENGLISH.has(token.text)];
      if (there && !here) foreign += 1;
      if (here && !there) english += 1;
      // Alphabets other than the Latin one begin behind U+024F.
      if (token.text.charCodeAt(0) > 0x24f) letters += 1;
    }
  return letters > english || foreign > english;
}
