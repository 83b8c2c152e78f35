/** Nouns by which documents and rules are told apart. */

/** What a receiver may ask for. */
export const NOUNS =
  /\b(portrait|portraits|signature|signatures|autograph|badge|badges|slip|slips|card|cards|mark|permit|pass|passport|licence|license|certificate|certificates|cover|covers|banner|banners|logo|logos|thumbnail|thumbnails|avatar|plate|plates|poster|posters|header|headers|icon|icons|letter|letters|sheet|sheets|map|maps|figure|figures|drawing|drawings|artwork|artworks|screenshot|screenshots|screen|website|web page|web pages|webpage|newsletter|gallery|slide|slides|leaflet|flyer|brochure|postcard|postcards|label|labels|receipt|receipts|statement|diploma|cards|id|headshot|mugshot|fingerprint|thumbprint|record|records|specimen|specimens|print|prints|mailbox|form|proof of \w+|front cover|back cover|title page|catalogue|profile)\b/;
export const GENERIC = /\b(photo|photos|photograph|photographs|picture|pictures|image|images|scan|scans)\b/;
/** Words that name a rule, not a document. */
export const RULE =
  /\b(size|sizes|format|formats|width|height|dimension|dimensions|colour|color|colours|resolution|quality|type|types|file|files|weight|pixel|pixels|px|kb|mb|mm|cm|background|border|ink|note|notes|requirement|requirements|rule|rules|example|examples|deadline|contact|tip|tips|attention|important|please|shape|ratio|limit|limits|maximum|minimum|max|min|paper|scale|side|edge|bits|profile|metadata|names|naming|printed|accepted|preferred|recommended|mode|space|compression|length|required|specification|specifications|specs|technical|total|range|extension|dpi|ppi|remarks|remark|hint|warning|address|phone|telephone|e-mail|subject|date|office|hours|fee|price|either|allowed|w|h)\b/;
