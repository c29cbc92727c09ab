import type { Catalogue } from "./words";

/** What German says otherwise where learners are addressed as Sie. */
export const deFormal: Partial<Catalogue> = {
  own: "Ihre Lösung",
  saidTaken: "{piece} ist in der Hand. Wählen Sie, wohin es soll; Escape legt es zurück.",
  stoppedSafe: "Was Sie gelegt haben, ist sicher. Laden Sie die Seite neu, dann geht es dort weiter.",
  away: "Die Aufgabe ist gerade nicht erreichbar. Nichts ist verloren; versuchen Sie es gleich noch einmal.",
  yourName: "Ihr Name",
  yourCode: "Ihr Code",
  notOpenYet: "Das öffnet am {date}. Kommen Sie dann wieder.",
  closed: "Das wurde am {date} geschlossen. Fragen Sie die Person, die Ihnen den Link gegeben hat.",
  linkEnded:
    "Diese Aufgabe wurde gelöscht, deshalb gilt der Link nicht mehr. Fragen Sie die Person, die Ihnen den Link gegeben hat.",
  begunBefore:
    "Sie haben das schon so oft begonnen, wie es erlaubt ist. Fragen Sie die Person, die Ihnen den Link gegeben hat.",
  full: "Die Höchstzahl an Teilnehmenden ist erreicht. Fragen Sie die Person, die Ihnen den Link gegeben hat.",
  wrongCode: "Dieser Code ist hier nicht gültig. Vergleichen Sie ihn mit dem, der Ihnen gegeben wurde.",
  manyCodes: "Es wurden viele falsche Codes versucht. Warten Sie eine Minute, und versuchen Sie es noch einmal.",
  codeAbout: "Acht Buchstaben und Ziffern, die Sie bekommen haben. Groß-/Kleinschreibung ist egal.",
  listAbout: "Wählen Sie für jedes Teil, wohin es gehört, und drücken Sie dann „Verschieben“.",
  noRelease: "Dieser Link führt zu keiner Aufgabe. Vergleichen Sie ihn mit dem, den Sie bekommen haben.",
  noSitting: "Dieser Browser kennt Ihren Durchgang nicht mehr. Laden Sie die Seite neu, um neu zu beginnen.",
  noDraft:
    "Dieser Link führt zu keinem Entwurf; vielleicht wurde er zurückgezogen. Fragen Sie die Person, von der Sie ihn haben.",
  raced: "Hier wird gerade in einem anderen Fenster gearbeitet. Laden Sie die Seite neu.",
  timeOver: "Die Zeit für diese Reihe ist um. Ihr Ergebnis ist gespeichert.",
  noName: "Geben Sie Ihren Namen an, damit man Ihr Ergebnis findet.",
};
