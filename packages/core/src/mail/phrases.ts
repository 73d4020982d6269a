/* How mail programs speak around what somebody wrote, in common languages. */

const WROTE = [
  ...['wrote', 'writes', 'schrieb', 'a écrit', 'écrit', 'escribió', 'ha escrito', 'ha scritto', 'scrisse', 'scrive', 'escreveu'],
  ...[
    'schreef',
    'heeft geschreven',
    'skrev',
    'kirjoitti',
    'napisał',
    'napisała',
    'napisał\\(a\\)',
    'pisze',
    'napsal',
    'napsala',
    'написал',
    'написала',
  ],
].join('|');

/** A day: with figures only, or with the name of a month before or behind the day. */
const DAY = [
  '\\d{4}-\\d{1,2}-\\d{1,2}',
  '\\d{1,2}[./-]\\s?\\d{1,2}[./-]\\s?\\d{2,4}',
  '\\d{1,2}\\.?\\s+(?:de\\s+)?\\p{L}{3,}\\.?,?\\s+(?:de\\s+)?\\d{4}',
  '\\p{L}{3,}\\.?\\s+\\d{1,2},?\\s+\\d{4}',
].join('|');

const SAYS_WROTE = new RegExp(`(?:^|[\\s,>)])(?:${WROTE})(?=[\\s:,]|$)`, 'iu');
const NAMES_A_DAY = new RegExp(`(?:^|[^\\p{L}\\d])(?:${DAY})(?=[^\\p{L}\\d]|$)`, 'iu');

/** Whether a line says that somebody wrote on a day, and ends with a colon. */
export const introducesQuote = (line: string): boolean => line.endsWith(':') && SAYS_WROTE.test(line) && NAMES_A_DAY.test(line);

const ORIGINAL = [
  ...[
    'original message',
    'forwarded message',
    'reply message',
    'ursprüngliche nachricht',
    'originalnachricht',
    'weitergeleitete nachricht',
  ],
  ...["message d['’]origine", 'message original', 'message transféré', 'mensaje original', 'mensaje reenviado', 'messaggio originale'],
  ...['messaggio inoltrato', 'mensagem original', 'oorspronkelijk bericht', 'doorgestuurd bericht', 'ursprungligt meddelande'],
  ...[
    'oprindelig meddelelse',
    'opprinnelig melding',
    'alkuperäinen viesti',
    'wiadomość oryginalna',
    'původní zpráva',
    'исходное сообщение',
  ],
].join('|');
const SEPARATOR = new RegExp(`^[-–—]+\\s*(?:${ORIGINAL})\\s*[-–—]+$`, 'iu');

/** Whether a line stands between a reply and the mail it answers. */
export const separatesMails = (line: string): boolean => /^_{5,}$/.test(line) || SEPARATOR.test(line);

const HEADERS = [
  ...['From', 'Sent', 'Date', 'To', 'Cc', 'Bcc', 'Subject', 'Reply-To', 'Von', 'Gesendet', 'Datum', 'An', 'Kopie', 'Betreff'],
  ...['De', 'Envoyé', 'À', 'Objet', 'Enviado', 'Enviado el', 'Fecha', 'Para', 'Asunto', 'Da', 'Inviato', 'Data', 'A', 'Oggetto'],
  ...['Assunto', 'Van', 'Verzonden', 'Aan', 'Onderwerp', 'Från', 'Skickat', 'Till', 'Ämne', 'Fra', 'Sendt', 'Dato', 'Til', 'Emne'],
  ...[
    'Od',
    'Wysłano',
    'Do',
    'Temat',
    'Lähettäjä',
    'Lähetetty',
    'Päivämäärä',
    'Vastaanottaja',
    'Aihe',
    'От',
    'Отправлено',
    'Дата',
    'Кому',
    'Тема',
  ],
].join('|');
const HEADER = new RegExp(`^\\*?(?:${HEADERS})\\s?:\\*?(?:\\s|$)`, 'iu');

/** Whether a line is one of a mail's head, as in "Subject: Panels". */
export const isHeader = (line: string): boolean => HEADER.test(line);

const SENT_FROM = [
  ...['sent (?:from|with|via) (?:my|a|an)', 'get \\S+ for (?:ios|android)', 'von meinem .{1,40} gesendet', 'gesendet von mein\\p{L}*'],
  ...['envoyé (?:de|depuis) mon', 'enviado desde mi', 'enviado do meu', 'inviato dal? mio', 'verstuurd vanaf mijn', 'verzonden vanaf mijn'],
  ...['skickat från min', 'sendt fra min', 'lähetetty', 'wysłane z (?:mojego|telefonu)'],
].join('|');
const BY_ITSELF = new RegExp(`^(?:${SENT_FROM})(?:\\s.{0,60})?$`, 'iu');

/** Whether a line is what a device puts under a mail by itself. */
export const isPutByDevice = (line: string): boolean => BY_ITSELF.test(line.trim());
