/**
 * How much there may be of anything: read by the schemas, the server's answers, the screens and the documentation. Far above
 * any house, and low enough that nothing sent can stop the server.
 */
export const LIMITS = {
  /** Bytes of a house file. */
  fileBytes: 16 * 1024 * 1024,
  /** Bytes of a batch of changes. */
  changeBytes: 8 * 1024 * 1024,
  /** Bytes of a batch of changes of the crew book. */
  crewBytes: 1024 * 1024,
  /** Bytes of one picture that the crew keeps, points on its longer side, and bytes of all of a crew. */
  assetBytes: 2 * 1024 * 1024,
  assetPoints: 6000,
  /** Bytes of a photo and of the small picture of it that lists show: made so in the browser. */
  photoBytes: 250_000,
  thumbBytes: 15_000,
  crewAssetBytes: 4 * 1024 * 1024 * 1024,
  /** Bytes of a picture or PDF that is made smaller before it is kept, and points of such a picture in all. */
  pictureFileBytes: 60 * 1024 * 1024,
  picturePoints: 120_000_000,
  /** Bytes of a house file with its pictures. */
  zipBytes: 512 * 1024 * 1024,
  /** Bytes of a drawing or a table that is read: DXF, CSV. */
  exchangeBytes: 64 * 1024 * 1024,
  /** Bytes of every other request. */
  requestBytes: 10 * 1024,
  /** Records in one list of a house. */
  records: 20_000,
  /** People of a crew. */
  people: 500,
  /** Levels of nesting in what is sent. */
  depth: 40,
  /** Entries of a list inside of a record. */
  entries: 1000,
  /** Fields of one object. */
  fields: 500,
  /** Characters of one text. */
  text: 10_000,
  /** Gangs of a box. */
  gangs: 12,
  /** Cables that are counted in one box. */
  cables: 500,
  /** Changes in one request, and in one group. */
  batch: 500,
  group: 5000,
  /** Problems told of one file or request; then "and more". */
  problems: 100,
  /** Bytes of one page of the journal; an entry larger than that travels alone. */
  pageBytes: 1024 * 1024,
  /** Entries of one page of the journal, and houses of one page of the list. */
  page: 500,
} as const;

/** "16 MB" */
export const megabytes = (bytes: number): string => `${Math.round(bytes / 1024 / 1024)} MB`;
