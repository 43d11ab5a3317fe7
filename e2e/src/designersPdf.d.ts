/**
 * What a designer hands over: a letter to the shop; a card 85 x 55 mm with 3 mm of bleed and marks beside it; a round label,
 * the page turned.
 */
export declare function designersPdf(): Promise<Buffer>;
