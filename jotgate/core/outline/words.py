"""What gives a kind of question away, in English, Spanish, German and Arabic."""

import re

_I = re.IGNORECASE


def any_of(*parts: str) -> re.Pattern[str]:
    return re.compile(r"(?<!\w)(?:" + "|".join(parts) + r")(?!\w)", _I)


NAMED: dict[str, str] = {
    name: kind
    for kind, names in {
        "short_text": "short text, text, short answer, texto corto, texto, "
        "respuesta corta, نص قصير, نص, إجابة قصيرة, kurzer text, kurze antwort",
        "long_text": "long text, paragraph, free text, long answer, texto largo, respuesta larga, "
        "نص طويل, إجابة طويلة, langer text, freitext, lange antwort",
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
        "location": "location, coordinates, gps, place on the map, ubicación, coordenadas, "
        "إحداثيات, koordinaten",
        "file": "file, upload, attachment, photo, archivo, foto, ملف, صورة, datei, bild",
        "signature": "signature, firma, توقيع, unterschrift",
        "note": "note, information, nota, ملاحظة, hinweis",
    }.items()
    for name in names.split(", ")
}
"""How people name a kind, in lower case."""

REQUIRED = any_of(
    "required",
    "mandatory",
    "obligatori[ao]",
    "requerid[ao]",
    "مطلوب",
    "إلزامي",
    "pflicht(?:feld|angabe)?",
    "erforderlich",
)
OPTIONAL = any_of("optional", "opcional", "اختياري", "freiwillig")
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

CONSENT = re.compile(
    r"^(?:i (?:hereby )?(?:agree|accept|consent|confirm|declare|give (?:my )?(?:permission|consent)"
    r"|have read|understand that|(?:would like|want|wish) to (?:receive|get|be told))"
    r"|(?:sí, )?(?:acepto|estoy de acuerdo|autorizo|consiento|confirmo|declaro|he leído"
    r"|(?:quiero|deseo) recibir)"
    r"|ich (?:stimme|willige|akzeptiere|bestätige|erkläre|bin (?:damit )?einverstanden"
    r"|habe .{1,80} gelesen|möchte .{1,80} (?:erhalten|bekommen))"
    r"|أوافق|موافق|أقر|أؤكد|أصرح|قرأت|(?:أرغب في|أريد) تلقي)(?!\w)",
    _I,
)
ENDS = re.compile(
    r"(?P<low>[01])\s*[=:]\s*(?P<least>[^,،;=]{1,40})[,،;]\s*(?:.{1,80}[,،;]\s*)?"
    r"(?P<high>10|[2-9])\s*[=:]\s*(?P<most>[^,،;=]{1,40})"
)
"""Both ends of a scale in words, in digits 0 to 9: 1 = never, 5 = always."""

NAME = re.compile(
    r"^(?:(?:what(?:'|’)?s|what is|please give|enter|and)?\s*(?:your |\w+(?:'|’)s )?"
    r"(?:full |first and last )?name|name and surname"
    r"|(?:cuál es )?(?:su |tu )?nombre(?: completo| y apellidos?)?"
    r"|(?:wie (?:ist|lautet) )?(?:ihr )?(?:vollständiger )?name"
    r"|vor- und nachname(?: de[sr] .{1,40})?|wie heißen sie"
    r"|¿cómo se llama(?: usted)?|nombre y apellidos?(?: del? .{1,40})?|full name of .{1,40}"
    r"|(?:applicant|contact|parent|guardian|child|guest|member|participant|visitor) name"
    r"|(?:ما )?(?:ال)?اسم(?:ك|كم)?(?: الكامل)?)"
    r"\s*[?؟:]*$",
    _I,
)
YES_NO = re.compile(
    r"^(?:do|does|did|is|are"
    r"|was(?!\s+(?:ist|war|waren|sind|wird|wurden?|würden?|hat|haben|kann|können|soll\w*"
    r"|möchten?|machen|denken|halten|gefällt|gefallen|fehlt|bringen|brauchen|sie|ihnen)\b)|were|have|has|had|can|could|will|would|should|may|am)\b"
    r"(?!.*\bor\b)"
    r"|^¿?\s*(?:tiene|tienen|es|está|están|ha|han|hay|puede|pueden|desea|quiere|usa|utiliza|vive"
    r"|conoce|recibió|fue)\b(?!.*\bo\b)"
    r"|^¿(?!.{0,200}\b(?:qu[ée]|cuál(?:es)?|quién(?:es)?|cómo|dónde|cuándo|cuánt[oa]s?|o)\b)"
    r"|^\w{2,20}(?:t|en|st) (?=(?:sie|es|er|das|der|die|ein|eine|noch|schon|ihre?|wir|man|jemand"
    r"|dort|hier)\b.{1,400}\?)(?!.*\boder\b)"
    r"|^(?:haben|hat|sind|ist|war|waren|können|kann|möchten|möchte|gibt|trinken|nutzen|wohnen|wurde"
    r"|wird|dürfen|darf)\b(?!.*\boder\b)|^(?:هل)\b(?!.*\bأم\b)",
    _I,
)
MORE = any_of(
    "anything else",
    "algo más",
    "sonst noch etwas",
    "noch etwas(?:, das|,? was)",
    "شيء آخر (?:تود|تريد|ترغب|يجب)",
)
"""Asks for whatever was not asked, though it could be answered with yes or no."""

FOLLOWING = any_of(
    "each(?: of)?",
    "(?:the )?following",
    "siguientes?",
    "folgenden?",
    "التالية?",
    "ما يلي",
)
RANK = any_of(
    "rank",
    "put .* in order",
    "in order of",
    "order of importance",
    "ordene",
    "in eine reihenfolge",
    "nach wichtigkeit",
    "ordnen sie",
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
RATES = any_of(
    "scale",
    "rate",
    "rating",
    "how satisfied",
    "how likely",
    "agree",
    "statements?",
    "probabilidad",
    "probable",
    "satisfech[oa]s?",
    "de acuerdo",
    "zustimmen",
    "stimmen sie",
    "aussagen",
    "احتمال",
    "مدى",
    "رضا",
    "escala",
    "califique",
    "valor[ae]n?",
    "puntúe",
    "skala",
    "bewerten",
    "wie zufrieden",
    "wie wahrscheinlich",
    "[تن]?قيّم",
    "[تن]قييم",
    "مقياس",
)
TELLS = re.compile(
    r"^(?:please |por favor,? |يرجى |من فضلك )?(?:describe|list|enter|rate|rank|select|choose"
    r"|pick|upload|attach|tell|explain|give|write|sign|tick|mark|name|state|describa|indique"
    r"|escriba|elija|seleccione|marque|suba|adjunte|ordene|firme|اكتب|اختر|اذكر|صف|أرفق|رتب)\b",
    _I,
)
