/** A mail as it arrived. */
export interface PostedMail {
  messageId: string;
  to: string;
  from: string;
  subject: string;
  text: string;
  html: string;
  headers: Record<string, string>;
  /** Number of times it was handed over: whoever keeps mail keeps one of a Message-ID once (RFC 5322 3.6.4) */
  times: number;
}
