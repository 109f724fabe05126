"""What gives a kind of question away, in English, Spanish and Arabic."""

import re

_I = re.IGNORECASE


def _any(*parts: str) -> re.Pattern[str]:
    return re.compile(r"(?<!\w)(?:" + "|".join(parts) + r")(?!\w)", _I)


NAMED: dict[str, str] = {
    name: kind
    for kind, names in {
        "short_text": "short text, text, texto corto, texto, نص قصير, نص, kurzer text",
        "long_text": "long text, paragraph, free text, texto largo, نص طويل, langer text, freitext",
        "email": "email, e-mail, mail address, correo, بريد إلكتروني, e-mail-adresse",
        "phone": "phone, telephone, phone number, teléfono, هاتف, telefon, telefonnummer",
        "web_address": "web address, link, url, enlace, رابط",
        "number": "number, numeric, integer, whole number, número, رقم, عدد, zahl, ganze zahl",
        "date": "date, day, fecha, تاريخ, datum, tag",
        "time": "time, hora, وقت, uhrzeit",
        "date_time": "date and time, fecha y hora, التاريخ والوقت",
        "yes_no": "yes/no, yes or no, yes no, y/n, sí/no, sí o no, نعم/لا, نعم أو لا, "
        "ja/nein, ja oder nein",
        "pick_one": "pick one, choose one, one choice, single choice, elegir uno, una opción, "
        "اختيار واحد, einfachauswahl",
        "pick_many": "pick many, choose many, choose several, multiple choice, several, varias, "
        "varias opciones, اختيار متعدد, mehrfachauswahl",
        "rank": "rank, ranking, order, ordenar, ترتيب",
        "scale": "scale, rating, escala, مقياس, skala",
        "name": "name, full name, nombre, اسم",
        "address": "address, postal address, dirección, عنوان, adresse, anschrift",
        "file": "file, upload, attachment, photo, archivo, foto, ملف, صورة",
        "signature": "signature, firma, توقيع, unterschrift",
        "note": "note, information, nota, ملاحظة, hinweis",
    }.items()
    for name in names.split(", ")
}
"""How people name a kind, in lower case."""

REQUIRED = _any(
    "required",
    "mandatory",
    "obligatori[ao]",
    "requerid[ao]",
    "مطلوب",
    "إلزامي",
    "pflicht(?:feld|angabe)?",
    "erforderlich",
)
OPTIONAL = _any("optional", "opcional", "اختياري", "freiwillig")
EXAMPLE = re.compile(
    r"(?<!\w)(?:e\.\s?g\.|eg\.|for example|for instance|p\.\s?ej\.|por ejemplo"
    r"|z\.\s?b\.|zum beispiel|مثلًا|مثلا|مثال)"
    r"\s*[:,،]?\s*",
    _I,
)
HELP = re.compile(
    r"^(?:hint|help|note|tip|ayuda|nota|pista|hinweis|hilfe|ملاحظة|تلميح)\s*[:：]\s*", _I
)
ELSE = re.compile(
    r"^(?:others?|something else|other reason|otr[oa]s?|otra cosa"
    r"|andere[rs]?|sonstige[rs]?|etwas anderes|أخرى|غير ذلك|شيء آخر)"
    r"\s*(?:[:.…_(,،-].*)?$",
    _I,
)
NONE = re.compile(
    r"^(?:none|none of (?:these|the above|them)|ningun[oa](?: de .*)?|no applicable"
    r"|not applicable|keine?(?: davon| der genannten)?|nichts davon|لا شيء(?: .*)?)\.?$",
    _I,
)
YES = re.compile(r"^(?:yes|y|sí|si|ja|نعم)\.?$", _I)
NO = re.compile(r"^(?:no|n|nein|لا)\.?$", _I)

MANY = re.compile(
    r"(?:all that apply|all which apply|tick all|check all|select all|choose all|mark all"
    r"|more than one|as many as|up to (?:\d+|two|three|four|five)|choose (?:two|three|\d+)"
    r"|tod[ao]s l[ao]s que|más de un[ao]|hasta (?:\d+|dos|tres)|varias"
    r"|mehrfachauswahl|alle zutreffenden|alles zutreffende"
    r"|mehrere|bis zu (?:\d+|zwei|drei)"
    r"|كل ما ينطبق|أكثر من|جميع ما)",
    _I,
)

Clue = tuple[str, re.Pattern[str], str]

CLUES: tuple[Clue, ...] = (
    (
        "signature",
        _any(
            "signature",
            "sign here",
            "please sign",
            "firma",
            "firme aquí",
            "unterschrift",
            "unterschreiben sie",
            "توقيع",
            "التوقيع",
        ),
        "a signature",
    ),
    (
        "file",
        _any(
            "upload",
            "attach",
            "attachment",
            "send us a (?:photo|picture|copy)",
            "photos? of",
            "picture of",
            "suba",
            "adjunt[ae]",
            "hochladen",
            "laden sie",
            "fügen sie",
            "foto(?:s|grafía)? de",
            "أرفق",
            "حمّل",
            "صورة ل?",
        ),
        "a file",
    ),
    (
        "email",
        _any(
            r"e-?mails?",
            r"mail address",
            r"correo(?: electrónico)?",
            r"e-mail-adresse",
            r"البريد الإلكتروني",
        ),
        "mail",
    ),
    (
        "web_address",
        _any(
            r"web ?sites?",
            "web address",
            "url",
            "web page",
            "(?:sitio|página) web",
            r"(?:ال)?موقع الإلكتروني",
        ),
        "a web address",
    ),
    (
        "phone",
        _any(
            r"(?:tele)?phone(?: numbers?)?",
            r"mobile(?: number)?",
            r"phone no",
            r"teléfono",
            r"móvil",
            r"celular",
            r"telefon(?:nummer)?",
            r"handynummer",
            r"رقم (?:ال)?(?:هاتف|جوال|موبايل).*",
            r"(?:ال)?هاتف",
        ),
        "a phone",
    ),
    (
        "date_time",
        _any(
            "date and time", "day and time", "fecha y hora", "datum und uhrzeit", "التاريخ والوقت"
        ),
        "a date and a time",
    ),
    (
        "time",
        _any(
            "what time",
            "at what time",
            "time of day",
            "preferred time",
            "a qué hora",
            "qué hora",
            "uhrzeit",
            "um wie viel uhr",
            "hora",
            "الساعة",
            "أي ساعة",
        ),
        "a time",
    ),
    (
        "date",
        _any(
            "date",
            "birthday",
            "date of birth",
            "which day",
            "what day",
            "when (?:did|was|were|is|will|would|can|do|should)",
            "datum",
            "geburtsdatum",
            "geburtstag",
            "wann",
            "welchem tag",
            "fecha",
            "qué día",
            "cuándo",
            "تاريخ",
            "متى",
            "أي يوم",
        ),
        "a date",
    ),
    (
        "number",
        _any(
            "how many",
            "how much",
            "how old",
            "how deep",
            "how far",
            "how long is",
            "number of",
            "age",
            "year of",
            "cuánt[oa]s?",
            "edad",
            "wie viele?",
            "wie alt",
            "wie tief",
            "anzahl",
            "alter",
            "número de",
            "كم",
            "عدد",
            "العمر",
        ),
        "a number",
    ),
    (
        "address",
        _any(
            "(?:postal|home|street|mailing|delivery|your) address",
            "address",
            "where do you live",
            "dirección",
            "domicilio",
            "adresse",
            "anschrift",
            "العنوان",
            "عنوان(?:ك|كم)?",
        ),
        "an address",
    ),
    (
        "long_text",
        _any(
            "describe",
            "explain",
            "comments?",
            "remarks?",
            "tell us",
            "why",
            "details?",
            "anything else",
            "feedback",
            "suggestions?",
            "in your own words",
            "what happened",
            "describ[ae]",
            "expli(?:que|ca)",
            "comentarios?",
            "por qué",
            "cuént[ea]nos",
            "algo más",
            "sugerencias?",
            "beschreiben",
            "erklären",
            "warum",
            "bemerkungen?",
            "anmerkungen?",
            "kommentare?",
            "erzählen sie",
            "صف",
            "اشرح",
            "لماذا",
            "ملاحظات",
            "تعليقات?",
            "أخبرنا",
        ),
        "words at length",
    ),
)
"""The kind, what gives it away, and what it asks for; the first that is found counts."""

NAME = re.compile(
    r"^(?:(?:what(?:'|’)?s|what is|please give|enter|and)?\s*(?:your )?(?:full |first and last )?"
    r"name"
    r"|full name|name and surname|(?:cuál es )?(?:su |tu )?nombre(?: completo| y apellidos?)?"
    r"|(?:wie (?:ist|lautet) )?(?:ihr )?(?:vollständiger )?name|vor- und nachname|wie heißen sie"
    r"|¿cómo se llama(?: usted)?|nombre y apellidos?|(?:ما )?(?:ال)?اسم(?:ك|كم)?(?: الكامل)?)"
    r"\s*[?؟:]*$",
    _I,
)
YES_NO = re.compile(
    r"^(?:do|does|did|is|are|was|were|have|has|had|can|could|will|would|should|may|am)\b"
    r"(?!.*\bor\b)"
    r"|^¿?\s*(?:tiene|tienen|es|está|están|ha|han|hay|puede|pueden|desea|quiere|usa|utiliza|vive"
    r"|conoce|recibió|fue)\b(?!.*\bo\b)"
    r"|^(?:haben|hat|sind|ist|war|waren|können|kann|möchten|möchte|gibt|trinken|nutzen|wohnen|wurde"
    r"|wird|dürfen|darf)\b(?!.*\boder\b)|^(?:هل)\b(?!.*\bأم\b)",
    _I,
)
RANK = _any(
    "rank",
    "put .* in order",
    "in order of",
    "order of importance",
    "ordene",
    "por orden de",
    "رتب",
    "رتّب",
)
SCALE = re.compile(
    r"\(?\b(?:from |on a scale (?:of|from) |scale (?:of|from) |rate .*? |de |del |escala del? "
    r"|von |من )?([01])\s*(?:\([^()]{1,40}\)\s*)?(?:-|–|to|through|al?|bis|إلى)\s*(10|[2-9])\b"
    r"(?:\s*\([^()]{1,40}\))?\)?",
    _I,
)
RATES = _any(
    "scale",
    "rate",
    "rating",
    "how satisfied",
    "how likely",
    "escala",
    "califique",
    "valore",
    "puntúe",
    "skala",
    "bewerten",
    "wie zufrieden",
    "wie wahrscheinlich",
    "قيّم",
    "مقياس",
)
TELLS = re.compile(
    r"^(?:please |por favor,? |يرجى |من فضلك )?(?:describe|list|enter|rate|rank|select|choose"
    r"|pick|upload|attach|tell|explain|give|write|sign|tick|mark|name|state|describa|indique"
    r"|escriba|elija|seleccione|marque|suba|adjunte|ordene|firme|اكتب|اختر|اذكر|صف|أرفق|رتب)\b",
    _I,
)
