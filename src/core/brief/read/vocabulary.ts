/** Nouns by which documents and rules are told apart. */

/** What a receiver may ask for. */
export const NOUNS =
  /\b(portrait|portraits|signature|signatures|autograph|badge|badges|slip|slips|card|cards|mark|permit|pass|passport|licence|license|certificate|certificates|cover|covers|banner|banners|logo|logos|thumbnail|thumbnails|avatar|plate|plates|poster|posters|header|headers|icon|icons|letter|letters|sheet|sheets|map|maps|figure|figures|drawing|drawings|artwork|artworks|screenshot|screenshots|screen|website|web page|web pages|webpage|newsletter|gallery|slide|slides|leaflet|flyer|brochure|postcard|postcards|label|labels|receipt|receipts|statement|diploma|cards|id|headshot|mugshot|fingerprint|thumbprint|record|records|specimen|specimens|print|prints|mailbox|form|proof of \w+|front cover|back cover|title page|catalogue|profile|impression|impressions|invoice|invoices|transcript|transcripts|ticket|tickets|selfie|selfies|floor plan|site plan|elevation|teaser|teasers|slideshow|testimonial|degree|marksheet|contract|contracts|id proof|address proof|resume|cv|curriculum vitae)\b|\brésumés?(?!\p{L})/u;
export const GENERIC = /\b(photo|photos|photograph|photographs|picture|pictures|image|images|scan|scans)\b/;
/** Words that name a rule, not a document. */
export const RULE =
  /\b(size|sizes|format|formats|width|height|dimension|dimensions|colour|color|colours|resolution|quality|type|types|file|files|weight|pixel|pixels|px|kb|mb|mm|cm|background|border|ink|note|notes|requirement|requirements|rule|rules|example|examples|deadline|contact|tip|tips|attention|important|please|shape|ratio|limit|limits|maximum|minimum|max|min|paper|scale|side|edge|bits|profile|metadata|names|naming|printed|accepted|preferred|recommended|mode|space|compression|length|required|specification|specifications|specs|technical|total|range|extension|dpi|ppi|remarks|remark|hint|warning|address|telephone|e-mail|subject|date|office|hours|fee|price|either|allowed|w|h)\b/;
/** What may stand in front of a document's name, and of a rule as well. */
export const MANNER = /^(small|large|landscape|square|plain|white|clear|sharp|recent)$/;
/** File formats by their usual names. */
export const FORMAT = /\b(jpe?gs?|pngs?|tiffs?|tif|gifs?|webp|pdfs?|bmp|avif|heic)\b/;
/** What sentences begin with that tell somebody what to do, or how much: such an item names no document. */
export const NO_NAME =
  /^(as|in|with|at|of|on|to|by|from|between|under|over|below|above|up|no|not|only|exactly|about|less|more|least|most|must|should|shall|may|can|cannot|do|don't|is|are|be|has|have|it|its|they|this|that|these|those|you|we|if|when|where|upload|send|submit|save|keep|make|use|crop|cut|resize|scale|reduce|convert|export|choose|select|click|press|take|scan|check|ensure|avoid|name|rename|add|set|open|allow|accept|never|always|all|both|each|every|either|any|one|two|three|minimum|maximum|min|max|smaller|larger|better|ideally|preferably|preferred|recommended|optional|then|and|or|but|also|first|next|finally|none|sign|write|put|wear|hold|attach|enclose|include|fill|bring)$/;

/** What sounds like a rule in names of documents: "proof of address", "colour photograph", "print file (winners only)". */
const NO_RULE =
  /\b(?:front|back|rear|reverse) sides?\b|\bside (?:views?|elevations?)\b|\bproof of \w+|\b(?:field|lecture|delivery|case) notes?\b|\bprofile (?=photo|picture|image|shot)|\bsize charts?\b|\bprinted (?=photo|picture|cop)|\bpassport(?: - | )sized?\b|\bcolou?r(?= (?:photo|photograph|picture|image|scan|copy)\b)|(?<=^(?:entry|print|web|proof|master|preview|press|cover|screen|archive|working|final) )files?(?= ?\(|$)/g;

/** Whether a name is about a rule. */
export const speaksOfRule = (text: string): boolean => RULE.test(text.replace(NO_RULE, " "));

/** Whether a text names something that a receiver asks for. */
export const isName = (text: string): boolean => NOUNS.test(text) || GENERIC.test(text);
