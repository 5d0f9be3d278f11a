/** What the API's own description says of its operations, as far as a screen shows it. */

interface DescribedOperation {
  tags?: string[];
  description?: string;
  summary?: string;
  "x-role"?: string;
  "x-scripts"?: boolean;
}

export interface ApiDescription {
  paths?: Record<string, Record<string, DescribedOperation>>;
}
