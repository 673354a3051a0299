"""Words that checks look for, in the languages pages are most often met in, and questions about text."""

from __future__ import annotations

import re
import unicodedata

from murvel.patterns import pattern


def _words(text: str) -> frozenset[str]:
    return frozenset(line.strip() for line in text.strip().splitlines() if line.strip())


VAGUE_LINKS = _words(
    """
    here
    click here
    click
    this
    this link
    this page
    link
    more
    more info
    more information
    more details
    read more
    read on
    learn more
    see more
    show more
    view more
    find out more
    details
    continue
    continue reading
    hier
    hier klicken
    mehr
    mehr erfahren
    mehr lesen
    mehr infos
    weiter
    weiterlesen
    details anzeigen
    ici
    cliquez ici
    en savoir plus
    lire la suite
    plus
    suite
    aquí
    haga clic aquí
    leer más
    más
    más información
    ver más
    qui
    clicca qui
    leggi tutto
    scopri di più
    lees meer
    meer
    weitere informationen
    mehr dazu
    zum artikel
    anzeigen
    klicken sie hier
    lire plus
    plus d infos
    plus d informations
    voir plus
    voir
    détails
    continuer
    clic aquí
    pulse aquí
    haz clic aquí
    saber más
    ver
    detalles
    continuar
    más info
    clicca
    leggi di più
    leggi
    continua
    altro
    dettagli
    vedi
    maggiori informazioni
    clique aqui
    aqui
    mais
    saiba mais
    saber mais
    ler mais
    ver mais
    mais informações
    leia mais
    detalhes
    klik hier
    hier klikken
    meer lezen
    meer info
    meer informatie
    lees verder
    verder
    bekijk
    詳しくはこちら
    詳細はこちら
    こちら
    詳細
    もっと見る
    続きを読む
    クリック
    ここをクリック
    もっと詳しく
    続き
    tutaj
    kliknij tutaj
    więcej
    czytaj więcej
    dowiedz się więcej
    buraya
    buraya tıklayın
    tıklayın
    devamı
    devamını oku
    daha fazla
    daha fazla bilgi
    тут
    натисніть тут
    більше
    докладніше
    читати далі
    дізнатися більше
    点击这里
    点击此处
    这里
    更多
    查看更多
    了解更多
    阅读更多
    详情
    여기
    여기를 클릭
    더 보기
    더보기
    자세히
    자세히 보기
    هنا
    اضغط هنا
    انقر هنا
    المزيد
    اقرأ المزيد
    यहाँ
    यहाँ क्लिक करें
    और
    और पढ़ें
    अधिक जानें
    """
)
"""Link texts that say nothing about where the link leads, when heard alone."""

EMPTY_NAMES = _words(
    """
    show
    hide
    more
    less
    menu
    open
    close
    x
    toggle
    button
    ok
    go
    expand
    collapse
    options
    edit
    delete
    anzeigen
    mehr
    öffnen
    schließen
    afficher
    fermer
    plus
    show more
    show less
    show all
    see more
    view
    view all
    load more
    read more
    more options
    actions
    settings
    filter
    submit
    send
    select
    choose
    next
    previous
    back
    add
    remove
    mehr anzeigen
    weniger anzeigen
    weniger
    ausblenden
    umschalten
    auswählen
    absenden
    bearbeiten
    löschen
    voir plus
    voir moins
    masquer
    ouvrir
    basculer
    envoyer
    modifier
    supprimer
    mostrar
    ocultar
    mostrar más
    ver más
    abrir
    cerrar
    alternar
    enviar
    editar
    eliminar
    más
    mostra
    nascondi
    mostra altro
    apri
    chiudi
    invia
    modifica
    elimina
    altro
    mostrar mais
    ver mais
    fechar
    enviar
    tonen
    verbergen
    meer tonen
    openen
    sluiten
    versturen
    bewerken
    verwijderen
    表示
    非表示
    もっと見る
    開く
    閉じる
    切り替え
    送信
    編集
    削除
    """
)
"""Names of controls that do not say of what."""

UNCLEAR_TWICE = frozenset(
    "menu|close|ok|go|submit|send|next|previous|back|settings|filter|view|schließen|fermer|cerrar|chiudi|fechar|sluiten|"
    "閉じる|absenden|envoyer|enviar|invia|versturen|送信|add|actions".split("|")
)
"""Those among them that are clear enough where only one thing on the page is called so."""

WORDS_FOR_FIELDS = _words(
    """
    edit
    edit text
    text
    text box
    textbox
    text field
    text input
    field
    form field
    input
    input field
    type here
    enter text
    select
    select an option
    choose
    choose an option
    dropdown
    drop-down
    combo box
    checkbox
    check box
    radio
    radio button
    option
    eingabe
    eingabefeld
    textfeld
    feld
    auswahl
    champ
    champ de texte
    saisie
    campo
    campo de texto
    campo di testo
    invoer
    invoerveld
    """
)
"""Names of fields that say what a field is, and not what it is for."""

VAGUE_TITLES = _words(
    """
    untitled
    untitled document
    document
    page
    new page
    title
    home
    index
    welcome
    page 1
    test
    default
    startseite
    accueil
    inicio
    ohne titel
    unbenannt
    sans titre
    page sans titre
    sin título
    documento
    senza titolo
    pagina
    sem título
    página
    página inicial
    naamloos
    thuis
    無題
    無題ドキュメント
    ホーム
    """
)

IMAGE_WORDS = pattern(
    r"^(?:an?|the)?\s*\b(?:image|picture|photo|photograph|graphic|icon|bild|foto|imagen)\b"
    r"\s*(?:of|showing|von|de)\b",
    re.IGNORECASE,
)
"""An alternative that says that it is one."""

NO_ALTERNATIVE = pattern(
    r"^(?:an?|the)?\s*(?:image|img|picture|photo|photograph|graphic|icon|bild|foto|imagen|immagine|afbeelding|obraz|zdjęcie|grafika|"
    r"resim|fotoğraf|görsel|зображення|фото|картинка|图片|图像|照片|이미지|사진|그림|صورة|छवि|चित्र|alt|"
    r"alt text|alternative text|untitled)\s*[\d.:]*$",
    re.IGNORECASE,
)
"""An alternative that stands where one should stand (WCAG failure F30)."""

DECORATION_WORDS = _words(
    """
    spacer
    decoration
    decorative
    decorative image
    ornament
    divider
    line
    bullet
    dot
    blank
    border
    background
    pixel
    separator
    transparent
    horizontal rule
    shadow
    placeholder
    arrow
    banner
    filler
    frame
    swirl
    """
)
"""Alternatives of images that would better be silent."""

DECORATIVE = pattern(
    r"^(?:an?\s+)?(?:decorative|ornamental|dekorative[rs]?|décorati(?:f|ve)|decorativ[ao])\b", re.IGNORECASE
)
"""How an alternative begins that says that the image is decorative."""

ICON_WORDS = pattern(r"\S\s*\b(?:icon|glyph|symbol|ikone|icône|icono|icona|ícone|pictogram)$", re.IGNORECASE)
"""How an alternative ends that says that the image is an icon."""

MESSAGE_LABELS = pattern(
    r"^(?:errors?|warnings?|notes?|notice|success|info|information|important|caution|attention|danger|tips?|hint|alert|"
    r"oops|sorry|fehler|warnung|hinweis|achtung|wichtig|erfolg|erreur|avertissement|remarque|attention|succès|"
    r"advertencia|aviso|nota|éxito|errore|avviso|attenzione|erro|sucesso|fout|waarschuwing|let op|opmerking|"
    r"エラー|警告|注意|重要|お知らせ|błąd|ostrzeżenie|uwaga|hata|uyarı|dikkat|not|помилка|увага|примітка|错误|提示|"
    r"오류|경고|주의|안내|خطأ|تنبيه|ملاحظة|त्रुटि|चेतावनी|ध्यान दें)\s*[:：!！.]*$",
    re.IGNORECASE,
)
"""The words before a message that tell its kind."""

NEW_WINDOW = pattern(
    r"new (?:window|tab)|opens? in|external|neues? (?:fenster|tab)|extern|nouvel(?:le)? (?:fenêtre|onglet)|"
    r"nueva (?:ventana|pestaña)|nuova (?:finestra|scheda)|nova (?:janela|aba|guia)|nieuw (?:venster|tabblad)|"
    r"新しい(?:ウィンドウ|タブ)|別(?:ウィンドウ|タブ)|外部|now\w+ (?:oknie|okno|karcie)|yeni (?:pencere|sekme)|"
    r"нов\w+ (?:вікні|вікно|вкладці)|新窗口|新标签|새 (?:창|탭)|نافذة جديدة|علامة تبويب جديدة|नई (?:विंडो|टैब)",
    re.IGNORECASE,
)

FILE_TYPES = frozenset(
    "csv doc docx epub gz ics jpg jpeg mov mp3 mp4 odp ods odt pdf png ppt pptx rar rtf tar txt xls xlsx zip".split()
)
"""Endings of addresses that are no pages."""

FILE_WORDS = {
    "doc": "word",
    "docx": "word",
    "xls": "excel",
    "xlsx": "excel",
    "ppt": "powerpoint",
    "pptx": "powerpoint",
    "ics": "calendar",
    "jpg": "image",
    "jpeg": "image",
    "png": "image",
    "mp3": "audio",
    "mp4": "video",
    "mov": "video",
}
"""Other words for a file type."""

FILE_NAME = pattern(
    r"^[^\s/]+\.(?:png|jpe?g|gif|svg|webp|avif|bmp|ico|tiff?|pdf|html?|php|aspx?|docx?|mp[34])$"
    r"|^(?:img|image|dsc|dscn|pic|photo|bild|screenshot|untitled)[\s_-]*\d{2,}$",
    re.IGNORECASE,
)
"""A name that is a file's."""

ADDRESS = pattern(r"^(?:https?://|www\.)\S+$|^[\w.-]+\.(?:com|org|net|example|info|eu|de|uk|fr)/\S+$", re.IGNORECASE)
"""A name that is an address of the web."""

REQUIRED_WORDS = pattern(
    r"\b(?:required|mandatory|pflichtfeld|pflicht|erforderlich|obligatoire|requis|obligatorio|requerido|obbligatorio|"
    r"richiesto|obrigatório|verplicht|vereist|wymagane|obowiązkowe|zorunlu|gerekli|обов['’]язково|обов['’]язкове)\b|"
    r"必須|必填|필수|مطلوب|إلزامي|आवश्यक|अनिवार्य",
    re.IGNORECASE,
)

ERROR_WORDS = pattern(
    r"\b(?:is|are|was) (?:required|missing|invalid|not valid|incorrect|wrong|too (?:short|long|large|small|many|few)|"
    r"already (?:taken|used|in use))\b|\b(?:must|has to|should|cannot|can't|can not|may not) (?:not )?"
    r"(?:be|have|contain|match|start|end|include)\b|"
    r"^(?:please )?(?:enter|choose|select|fill in|give|type|provide) (?:an?|your|the|at least)\b|^please\b|"
    r"\b(?:invalid|not valid|not a valid|incorrect|not recogni[sz]ed|do(?:es)? not match|don't match)\b|"
    r"^required[.!]?$|^(?:bitte|veuillez|por favor|per favore|vul)\b|\b(?:ungültig|fehlt|muss|erforderlich|invalide|"
    r"manquant|obligatoire|doit|no es válid[ao]|falta|debe|obligatori[ao]|non (?:è )?valid[ao]|manca|deve|inválid[ao]|"
    r"ongeldig|ontbreekt|moet|verplicht)\b|無効|必須|入力してください|選択してください|正しく",
    re.IGNORECASE,
)
"""What messages about a field say."""

BARE_ERRORS = pattern(
    r"^(?:(?:the\s+)?(?:field|value|input|entry|this|form|this field|data)\s+(?:is|was)\s+)?"
    r"(?:an?\s+)?(?:error|invalid|wrong|incorrect|not valid|bad|failed|fehler|ungültig|falsch|erreur|invalide|"
    r"incorrecto|inválido|errore|non valido|errato|erro|ongeldig|fout|onjuist|"
    r"エラー|無効|不正|正しくありません|błąd|nieprawidłow[eay]|hata|geçersiz|hatalı|помилка|неправильно|"
    r"错误|无效|不正确|오류|잘못됨|خطأ|غير صالح|त्रुटि|अमान्य)"
    r"(?:\s+(?:input|value|entry|data|format|field|eingabe|wert))?[\s.!:]*$",
    re.IGNORECASE,
)
"""Messages that say that something is wrong, and no more."""

TIME_LIMIT = pattern(
    r"\b(?:session|page|form|you(?:r time)?)\b[^.]{0,60}\b(?:expires?|times? out|timeout|ends?|logged out|signed out)\b"
    r"[^.]{0,30}\b(?:minutes?|seconds?)"
    r"|\b(?:within|you have|innerhalb von)\s+\d+\s+(?:minutes?|seconds?|minuten|sekunden)\b",
    re.IGNORECASE,
)
"""Text about a time limit."""

FORM_INSTRUCTION = pattern(
    r"\b(?:fields? (?:marked|with)|required fields?|must (?:be|have|contain)|use the format|in the format|"
    r"mandatory fields?|felder mit|pflichtfelder)\b|^\*\s*(?:=|:|-|–)?\s*\w+",
    re.IGNORECASE,
)
"""Text that says how a form is to be filled in."""

PERSONAL: tuple[tuple[str, str], ...] = (
    (r"e-?mail", "email"),
    (r"(?:tele)?phone|mobile(?: number)?|telefon", "tel"),
    (r"(?:first|given) name|vorname|prénom", "given-name"),
    (r"(?:last|family) name|surname|nachname", "family-name"),
    (r"(?:your |full )?name", "name"),
    (r"post(?:al )?code|zip(?: code)?|plz|postleitzahl", "postal-code"),
    (r"street(?: address)?|address line 1|straße", "street-address"),
    (r"(?:town|city)(?: or (?:town|city))?|ort|ville", "address-level2"),
    (r"country|land|pays", "country-name"),
    (r"(?:date of birth|birthday|birth date)|geburtsdatum", "bday"),
    (r"organi[sz]ation|company|firma", "organization"),
    (r"user ?name", "username"),
    (r"(?:current )?password|passwort", "current-password"),
)
"""Labels of fields about the person, and the token of autocomplete for each (WCAG 2.2 §7)."""

_FRILLS = pattern(r"[\s\W_]+")


def plain(text: str) -> str:
    """Return text for comparing: letters and digits in lower case, single spaces."""
    if text.isalnum():
        return text.casefold()
    return _FRILLS.sub(" ", text.casefold()).strip()


def is_symbols(text: str) -> bool:
    """Whether text has no letter or digit."""
    return bool(text.strip()) and not any(character.isalnum() for character in text)


def has_glyphs(text: str) -> bool:
    """Whether text holds characters of a private use area, as icon fonts have them."""
    return any(unicodedata.category(character) == "Co" for character in text)
