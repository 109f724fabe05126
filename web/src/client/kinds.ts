/** Written from the code of the server by bin/fix; not to be edited. */
/** What is known of each kind of item. */
export const KINDS = {
 "short_text": {
  "name": "Short text",
  "group": "Text",
  "holds": "text",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": true,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "long_text": {
  "name": "Long text",
  "group": "Text",
  "holds": "text",
  "inRoster": true,
  "inGrid": false,
  "byLink": true,
  "typed": true,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "email": {
  "name": "Email",
  "group": "Text",
  "holds": "text",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": true,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "phone": {
  "name": "Phone",
  "group": "Text",
  "holds": "text",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": true,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "web_address": {
  "name": "Web address",
  "group": "Text",
  "holds": "text",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": true,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "number": {
  "name": "Number",
  "group": "Numbers and time",
  "holds": "number",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": true,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "date": {
  "name": "Date",
  "group": "Numbers and time",
  "holds": "day",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "time": {
  "name": "Time",
  "group": "Numbers and time",
  "holds": "time",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "date_time": {
  "name": "Date and time",
  "group": "Numbers and time",
  "holds": "moment",
  "inRoster": true,
  "inGrid": false,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "yes_no": {
  "name": "Yes or no",
  "group": "Choices",
  "holds": "truth",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "pick_one": {
  "name": "Pick one",
  "group": "Choices",
  "holds": "pick",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": false,
  "pressed": true,
  "offers": true,
  "readBack": false
 },
 "pick_many": {
  "name": "Pick many",
  "group": "Choices",
  "holds": "picks",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": false,
  "pressed": true,
  "offers": true,
  "readBack": false
 },
 "rank": {
  "name": "Rank",
  "group": "Choices",
  "holds": "order",
  "inRoster": true,
  "inGrid": false,
  "byLink": true,
  "typed": false,
  "pressed": true,
  "offers": true,
  "readBack": false
 },
 "scale": {
  "name": "Scale",
  "group": "Choices",
  "holds": "number",
  "inRoster": true,
  "inGrid": true,
  "byLink": true,
  "typed": false,
  "pressed": true,
  "offers": false,
  "readBack": false
 },
 "name": {
  "name": "Name",
  "group": "In parts",
  "holds": "parts",
  "inRoster": true,
  "inGrid": false,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "address": {
  "name": "Address",
  "group": "In parts",
  "holds": "parts",
  "inRoster": true,
  "inGrid": false,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "location": {
  "name": "Location",
  "group": "In parts",
  "holds": "place",
  "inRoster": true,
  "inGrid": false,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": true
 },
 "file": {
  "name": "File",
  "group": "In parts",
  "holds": "files",
  "inRoster": true,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "signature": {
  "name": "Signature",
  "group": "In parts",
  "holds": "drawing",
  "inRoster": false,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "grid": {
  "name": "Grid",
  "group": "In parts",
  "holds": "rows",
  "inRoster": false,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": true,
  "readBack": false
 },
 "roster": {
  "name": "Roster",
  "group": "In parts",
  "holds": "entries",
  "inRoster": false,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "note": {
  "name": "Note",
  "group": "Shown",
  "holds": "nothing",
  "inRoster": true,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "picture": {
  "name": "Picture",
  "group": "Shown",
  "holds": "nothing",
  "inRoster": false,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "video": {
  "name": "Video",
  "group": "Shown",
  "holds": "nothing",
  "inRoster": false,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "carried": {
  "name": "Carried value",
  "group": "Behind the page",
  "holds": "carried",
  "inRoster": false,
  "inGrid": false,
  "byLink": true,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": false
 },
 "computed": {
  "name": "Computed value",
  "group": "Behind the page",
  "holds": "computed",
  "inRoster": false,
  "inGrid": false,
  "byLink": false,
  "typed": false,
  "pressed": false,
  "offers": false,
  "readBack": true
 }
} as const;

/** What can be asked of an answer, by what it holds. */
export const OPERATORS = {
 "nothing": [],
 "text": [
  "is",
  "is_not",
  "contains",
  "like",
  "one_of"
 ],
 "number": [
  "is",
  "is_not",
  "at_least",
  "at_most",
  "more_than",
  "less_than",
  "between",
  "one_of"
 ],
 "day": [
  "is",
  "is_not",
  "at_least",
  "at_most",
  "more_than",
  "less_than",
  "between",
  "one_of"
 ],
 "time": [
  "is",
  "is_not",
  "at_least",
  "at_most",
  "more_than",
  "less_than",
  "between",
  "one_of"
 ],
 "moment": [
  "is",
  "is_not",
  "at_least",
  "at_most",
  "more_than",
  "less_than",
  "between",
  "one_of"
 ],
 "truth": [
  "is",
  "is_not",
  "one_of"
 ],
 "pick": [
  "is",
  "is_not",
  "one_of"
 ],
 "picks": [
  "includes",
  "includes_all",
  "one_of"
 ],
 "order": [],
 "parts": [],
 "place": [],
 "files": [],
 "drawing": [],
 "rows": [],
 "entries": [
  "entry_count",
  "any_entry",
  "every_entry"
 ]
} as const;

/** What of an answer is held against another, by what it holds. */
export const MEASURED = {
 "nothing": "nothing",
 "text": "text",
 "number": "number",
 "day": "day",
 "time": "time",
 "moment": "moment",
 "truth": "truth",
 "pick": "text",
 "picks": "number",
 "order": "number",
 "parts": "parts",
 "place": "nothing",
 "files": "number",
 "drawing": "nothing",
 "rows": "nothing",
 "entries": "number"
} as const;

/** What columns of registers take an answer, by what it holds. */
export const COLUMNS = {
 "number": [
  "number",
  "entry"
 ],
 "day": [
  "date"
 ],
 "time": [
  "time"
 ],
 "moment": [
  "date_time"
 ],
 "truth": [
  "yes_no"
 ],
 "pick": [
  "pick_one"
 ],
 "picks": [
  "pick_many"
 ],
 "order": [
  "pick_many"
 ],
 "files": [
  "files"
 ],
 "text": [
  "pick_one",
  "number",
  "date",
  "email",
  "phone",
  "web_address",
  "person",
  "entry"
 ]
} as const;

/** What can be several in one answer. */
export const COUNTED = [
 "entries",
 "files",
 "order",
 "picks"
] as const;

/** Measures of which none is more than another. */
export const UNORDERED = [
 "parts",
 "text",
 "truth"
] as const;

/** The kinds that are answered with one press. */
export const PRESSED = [
 "pick_one",
 "pick_many",
 "rank",
 "scale"
] as const;

/** The kinds that nobody answers. */
export const NOT_ASKED = [
 "carried",
 "computed",
 "note",
 "picture",
 "video"
] as const;

/** Languages written from right to left. */
export const RIGHT_TO_LEFT = [
 "apc",
 "ar",
 "bal",
 "bgn",
 "ckb",
 "dv",
 "fa",
 "he",
 "ks",
 "lrc",
 "mzn",
 "nqo",
 "ps",
 "rhg",
 "sd",
 "sdh",
 "skr",
 "syr",
 "trw",
 "ug",
 "ur",
 "yi"
] as const;
