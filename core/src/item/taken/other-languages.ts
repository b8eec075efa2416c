import type { Language } from './language.ts';

export const GERMAN: Language = {
  nouns: {
    assignment: `
      hausaufgabe, hausaufgaben, hausarbeit, hausübung, hü, aufgabe, aufgaben, übung, übungen, arbeitsblatt,
      arbeitsauftrag, abgabe, einreichung, protokoll, versuchsprotokoll, bericht, praktikumsbericht,
      zusammenfassung, gliederung, entwurf, formular, zettel, einverständnis, einverständniserklärung,
      unterschrift, mappe, heft, tagebuch, lesetagebuch, lerntagebuch, plakat, steckbrief, gedicht, brief, geld,
      kopiergeld, beitrag, anzahlung, zahlung, rate, anmeldung, rückmeldung, bewerbung, fragebogen, inhaltsangabe,
      erörterung, interpretation, gedichtanalyse, bücherrückgabe, handout, folien, wochenplan, wochenaufgabe,
      modell, zeichnung, skizze, video, lösung, lösungen, rechnungen, berichtigung, verbesserung, buchvorstellung,
      rezension, stellungnahme, antwort, antworten, einzahlung, attest, entschuldigung`,
    project: `
      projekt, projektarbeit, facharbeit, seminararbeit, bachelorarbeit, masterarbeit, belegarbeit, portfolio,
      essay, aufsatz, referat, gfs`,
    discussion: 'forum, forenbeitrag, diskussionsbeitrag, kommentar, beitrag im forum',
    reading: 'lektüre, kapitel, seiten, seite, lesen',
    practice: 'vokabeln, vokabel, wiederholung, einmaleins, lernwörter, lernkarten',
    test: `
      klausur, klausuren, klassenarbeit, klassenarbeiten, schularbeit, schulaufgabe, stegreifaufgabe, kurzarbeit,
      test, tests, prüfung, prüfungen, abitur, abiturprüfung, matura, probe, kurztest, vokabeltest, lernkontrolle,
      leistungskontrolle, lernzielkontrolle, lernstandserhebung, diktat, mündliche prüfung, kolloquium,
      nachschreibtermin, nachklausur, zwischenprüfung, ex, vergleichsarbeit, quiz, probeklausur, sehtest`,
    lesson: `
      unterricht, stunde, vorlesung, seminar, kurs, workshop, übungsstunde, tutorium, nachhilfe, förderunterricht,
      praktische übung, einführung, doppelstunde, sprechstunde der`,
    trip: `
      ausflug, klassenfahrt, exkursion, wandertag, studienfahrt, kursfahrt, besuch, fahrt, schüleraustausch,
      austausch, skilager, landschulheim, schullandheim, skifreizeit, rundgang, führung, museumsbesuch,
      theaterbesuch`,
    meeting: `
      elternabend, elternsprechtag, elterngespräch, sprechtag, treffen, besprechung, sitzung, versammlung,
      konferenz, probe chor, chorprobe, orchesterprobe, generalprobe, theaterprobe, aufführung, konzert,
      schulkonzert, sportfest, bundesjugendspiele, turnier, spiel, training, wettkampf, schulfest, sommerfest,
      feier, abschlussfeier, einschulung, tag der offenen tür, vortrag, ausstellung, praktikum, betriebspraktikum,
      betreuung, arzttermin, zahnarzt, termin, fototermin, schulfotograf, gottesdienst, vollversammlung,
      projektwoche, infoabend, informationsabend, berufsmesse, messe, lesung, beratung, ag, feueralarm,
      probealarm, impfung, basar, flohmarkt, weihnachtsfeier, lerngruppe`,
    dayOff: `
      ferien, feiertag, schulfrei, unterrichtsfrei, frei, studientag, pädagogischer tag, brückentag, ferientag,
      beweglicher ferientag, hitzefrei, unterrichtsausfall, schließtag, urlaub, fortbildungstag, reformationstag,
      allerheiligen, pfingsten, ostern, weihnachten, tag der deutschen einheit`,
    reminder: `
      zeugnis, zeugnisse, zeugnisausgabe, zeugniskonferenz, noten, notenschluss, notenbekanntgabe, ergebnisse,
      geburtstag, erinnerung, hinweis, info, speiseplan, stundenplan, vertretung, vertretungsplan, wartung,
      wartungsarbeiten, schulbeginn, unterrichtsbeginn, unterrichtsschluss, schulschluss, semesterbeginn,
      semesterende, letzter schultag, erster schultag, zeitumstellung, altpapiersammlung, sammlung, sprechstunde,
      bekanntgabe, raumänderung, mottotag, elternbrief`,
  },
  vague: {
    assignment: 'präsentation, vorstellung, versuch, labor, praktikum heft, lernen',
    discussion: 'diskussion, debatte',
    test: 'mündliche, zwischenstand, kontrolle',
    practice: 'üben',
  },
  verbs: {
    assignment: `
      schreiben, abgeben, mitbringen, bearbeiten, ausfüllen, unterschreiben, hochladen, einreichen, erledigen,
      fertigstellen, zahlen, bezahlen, überweisen, anmelden, ausdrucken, zeichnen, basteln, rechnen, lösen,
      zurückgeben, abschicken, schicken, beantworten, erstellen, vorbereiten, ausarbeiten, beenden, einkleben,
      übersetzen, überarbeiten, verbessern, gestalten, malen, bauen`,
    reading: 'lesen, lies, ansehen, anschauen',
    practice: 'lernen, üben, wiederholen, auswendig lernen',
    discussion: 'diskutieren, kommentieren',
  },
  ends: {
    assignment: `
      aufgabe, aufgaben, übung, übungen, arbeitsblatt, blatt, blätter, protokoll, bericht, zettel, formular,
      mappe, heft, tagebuch, plakat, entwurf, gliederung, zusammenfassung, erklärung, analyse, bogen, aufsatz,
      geld, abgabe, skizze, zeichnung, modell, vorstellung, beschreibung, anmeldung, charakteristik,
      interpretation, vortragsfolien`,
    project: `
      projekt, referat, portfolio, facharbeit, seminararbeit, hausarbeit, bachelorarbeit, projektarbeit`,
    test: `
      klausur, klausuren, arbeit, prüfung, prüfungen, test, tests, diktat, kontrolle, kolloquium, quiz`,
    lesson: 'unterricht, stunde, vorlesung, seminar, kurs, workshop, tutorium',
    trip: 'ausflug, fahrt, exkursion, besuch, wandertag, austausch, lager, führung',
    meeting: `
      abend, sprechtag, treffen, sitzung, versammlung, konferenz, probe, proben, konzert, fest, turnier, spiel,
      training, feier, vortrag, ausstellung, praktikum, termin, messe, aufführung, gespräch, lesung, wettbewerb,
      wettkampf, gottesdienst`,
    dayOff: 'ferien, feiertag, studientag, frei',
    reminder: 'ausgabe, beginn, schluss, plan, sammlung, wartung, bekanntgabe, geburtstag, woche',
    practice: 'vokabeln, wörter',
    reading: 'lektüre, kapitel',
  },
  joints: `
    für, der, des, die, das, den, dem, zum, zur, von, vom, über, im, in, am, an, auf, mit, nach, bis, und, aus,
    bei, ab, zu, zwischen, vor, unter, als, ein, eine, einen, einem, oder, ins`,
  due: `
    abgabe, abgabetermin, fällig, abgabefrist, frist, bis spätestens, letzter termin, einsendeschluss,
    anmeldeschluss, abzugeben, einzureichen, unterschrieben zurück, zurück an, zurück bis`,
  opens: `
    öffnet, verfügbar, beginnt, startet, freigeschaltet, veröffentlicht, freigegeben, online verfügbar, offen,
    verschoben`,
  closes: 'schließt, endet, läuft ab',
  shut: 'geschlossen, gesperrt, zu',
  off: 'entfällt, fällt aus, abgesagt, ausfall, findet nicht statt',
  none: 'kein, keine, keinen, ohne',
  school: `
    schule, unterricht, stunde, vorlesung, vorlesungen, schultag, kurs, sportunterricht, musikunterricht, kita`,
  reminds: 'erinnerung, hinweis, info, achtung, nicht vergessen, bitte beachten, wichtig',
};

export const FRENCH: Language = {
  nouns: {
    assignment: `
      devoir, devoirs, devoir maison, dm, exercice, exercices, rédaction, fiche, feuille, rapport, compte rendu,
      compte-rendu, résumé, carnet, journal, carnet de lecture, cahier, formulaire, autorisation, autorisation
      parentale, talon, coupon, bulletin d’inscription, inscription, paiement, acompte, chèque, règlement,
      affiche, dessin, croquis, poème, lettre, brouillon, version, plan, questionnaire, dossier, travail, travail
      à faire, tâche, corrigé à faire, dissertation, commentaire de texte, commentaire composé, explication de
      texte, fiche de lecture, recherche, recherches, synthèse, bibliographie, panneau, maquette, enregistrement,
      vidéo, diaporama, attestation, signature, questions, rendu, livrable, photo, livre à rendre, livres à
      rendre, réponse, réponses, problème, problèmes`,
    project: 'projet, mémoire, portfolio, tpe, exposé, essai, grand oral dossier',
    discussion: 'forum, message au forum, commentaire, débat en ligne, contribution au forum',
    reading: 'lecture, chapitre, chapitres, pages',
    practice: `
      vocabulaire, révision, révisions, leçon à apprendre, poésie, tables, dictée à préparer, conjugaison`,
    test: `
      contrôle, contrôles, devoir surveillé, ds, devoir sur table, interrogation, interro, examen, examens,
      épreuve, épreuves, partiel, partiels, bac, bac blanc, brevet, brevet blanc, test, quiz, qcm, dictée, oral
      blanc, concours, évaluation, évaluations, oral du brevet, grand oral, oral, composition, concours blanc,
      rattrapage`,
    lesson: `
      cours, leçon, séance, tp, td, travaux pratiques, travaux dirigés, conférence, séminaire, atelier, tutorat,
      aide aux devoirs, soutien, permanence, cours magistral`,
    trip: `
      sortie, sortie scolaire, voyage, voyage scolaire, visite, excursion, classe de neige, classe verte, classe
      de mer, échange, échange scolaire, séjour, randonnée`,
    meeting: `
      réunion, réunion parents-professeurs, réunion de parents, rencontre, rencontres, conseil de classe, conseil,
      répétition, répétitions, concert, spectacle, fête, kermesse, tournoi, match, entraînement, compétition,
      stage, stage en entreprise, rendez-vous, rdv, portes ouvertes, journée portes ouvertes, assemblée,
      cérémonie, exposition, entretien, audition, chorale, chorale répétition, soirée, club, représentation,
      dentiste, médecin, photo de classe, photos de classe, photographe, salon, forum des métiers, exercice
      d’évacuation, cross, vente, marché, goûter, repas, théâtre`,
    dayOff: `
      vacances, congé, congés, férié, jour férié, jours fériés, pont, journée pédagogique, fermeture, relâche,
      semaine de relâche, grève, toussaint, ascension, pâques, noël, armistice, pentecôte`,
    reminder: `
      bulletin, bulletins, notes, résultats, résultat, relevé de notes, anniversaire, rappel, info, information,
      menu, cantine, rentrée, rentrée des classes, fin du trimestre, fin des cours, début des cours, changement
      d’heure, maintenance, emploi du temps, collecte, permanence du professeur, corrigé, semaine, semestre,
      trimestre, journée sans uniforme, carnaval, changement de salle, affichage, remise des bulletins, remise des
      notes, remise des diplômes`,
  },
  vague: {
    assignment: 'présentation, expérience, production',
    discussion: 'débat, discussion',
    practice: 'entraînement à',
    test: 'soutenance',
  },
  verbs: {
    assignment: `
      rendre, remettre, faire, finir, terminer, écrire, rédiger, compléter, remplir, signer, faire signer,
      apporter, amener, rapporter, déposer, envoyer, téléverser, télécharger, payer, régler, répondre, répondre
      aux, résoudre, imprimer, dessiner, préparer, rechercher, chercher, choisir, s’inscrire, inscrire, corriger,
      recopier, coller, traduire, résumer, analyser, publier, créer, construire`,
    reading: 'lire, relire, regarder, écouter, visionner',
    practice: 'apprendre, réviser, revoir, mémoriser, s’entraîner, réciter',
    discussion: 'commenter, discuter, réagir, participer au forum',
  },
  joints: `
    de, du, des, d, à, au, aux, sur, pour, en, dans, par, avec, avant, après, le, la, les, un, une, l, et, ou,
    chez, sans, jusqu, que, qui, entre, vers, ton, ta, tes, votre, vos, son, sa, ses`,
  due: `
    à rendre, à remettre, rendre, remise, date limite, dernier délai, à déposer, à faire, à finir, à terminer, à
    compléter, à signer, à faire signer, à apporter, à rapporter, à envoyer, à lire, à apprendre, à préparer,
    échéance, dernier jour pour, date butoir`,
  opens: `
    ouvre, ouvert, ouverte, disponible, disponibles, commence, débute, publié, publiés, en ligne, affichés,
    début, reporté, reportée`,
  closes: 'ferme, se termine, clôture, prend fin, fin',
  shut: 'fermé, fermée, fermés, fermées, indisponible',
  off: 'annulé, annulée, annulés, supprimé, absent, absente',
  none: 'pas de, pas d, aucun, aucune, sans, pas',
  school: 'cours, école, classe, lycée, collège, leçon',
  reminds: 'rappel, info, attention, n’oubliez pas, note, important',
};

export const SPANISH: Language = {
  nouns: {
    assignment: `
      tarea, tareas, deber, deberes, ejercicio, ejercicios, ficha, fichas, hoja, informe, resumen, redacción,
      cuaderno, diario, diario de lectura, formulario, autorización, autorización firmada, permiso, justificante,
      pago, cuota, dinero, inscripción, matrícula, mapa, mural, cartel, póster, dibujo, boceto, poema, carta,
      borrador, versión, cuestionario, comentario de texto, esquema, glosario, trabajo, entrega, actividad,
      actividades, práctica escrita, problemas, problema, reseña, bibliografía, maqueta, vídeo, video, grabación,
      presentación escrita, solicitud, encuesta, respuestas, respuesta, preguntas, reflexión, análisis,
      traducción, línea del tiempo, hoja de ejercicios, informe de laboratorio, devolución de libros, fotos, foto`,
    project: `
      proyecto, ensayo, trabajo final, trabajo de investigación, monografía, tesis, tfg, tfm, portafolio, memoria`,
    discussion: `
      foro, comentario en el foro, mensaje en el foro, aportación al foro, participación en el foro`,
    reading: 'lectura, capítulo, capítulos, páginas, leer',
    practice: 'vocabulario, repaso, verbos, verbos irregulares, tablas',
    test: `
      examen, exámenes, prueba, pruebas, control, controles, parcial, parciales, test, cuestionario final,
      evaluación, evaluaciones, examen final, examen oral, oral, recuperación, selectividad, ebau, evau, dictado,
      quiz, simulacro de examen, examen parcial, ensayo en clase`,
    lesson: `
      clase, clases, lección, seminario, taller, tutoría, práctica, prácticas, laboratorio, curso, conferencia,
      charla, refuerzo, clase de apoyo, clase magistral, sesión`,
    trip: `
      excursión, salida, visita, viaje, viaje de estudios, viaje de fin de curso, convivencia, acampada,
      intercambio, ruta, senderismo, campamento`,
    meeting: `
      reunión, reunión de padres, entrevista, ensayo general, ensayo del coro, ensayo de la orquesta, ensayo de
      teatro, concierto, obra, función, fiesta, festival, torneo, partido, entrenamiento, competición, carrera,
      cita, médico, dentista, jornada de puertas abiertas, puertas abiertas, asamblea, ceremonia, graduación,
      exposición, audición, coro, club, simulacro de incendio, simulacro, foto de clase, fotos de clase, feria,
      feria del libro, feria de ciencias, olimpiada, desfile, comida, cena, desayuno, consulta, encuentro, acto,
      mercadillo, obra de teatro, actuación, cine, teatro, prácticas de empresa, reunión de equipo`,
    dayOff: `
      vacaciones, festivo, día festivo, puente, fiesta nacional, día no lectivo, no lectivo, día libre, semana
      santa, navidad, día de libre disposición, cierre, sin clase, sin clases, huelga, descanso, receso`,
    reminder: `
      notas, boletín, boletines, calificaciones, resultados, entrega de notas, cumpleaños, recordatorio, aviso,
      información, menú, comedor, inicio de curso, inicio del curso, fin de curso, fin de trimestre, fin del
      trimestre, comienzo de curso, primer día, último día, cambio de hora, mantenimiento, horario, nuevo horario,
      cambio de aula, recogida, semana, día del libro, día de la paz, carnaval, día sin uniforme, horas de
      tutoría, horario de atención, corrección, entrega de boletines, entrega de premios, inicio de las clases,
      publicación de notas`,
  },
  vague: {
    assignment: 'presentación, exposición oral, experimento',
    discussion: 'debate, discusión',
    practice: 'practicar',
  },
  verbs: {
    assignment: `
      entregar, hacer, terminar, acabar, escribir, redactar, completar, rellenar, firmar, traer, traer firmado,
      llevar, subir, enviar, mandar, pagar, responder, contestar, resolver, imprimir, dibujar, preparar, buscar,
      investigar, elegir, inscribirse, apuntarse, corregir, copiar, traducir, resumir, analizar, devolver, crear,
      construir, grabar, diseñar, pintar, colorear, adjuntar`,
    reading: 'leer, ver, escuchar, releer',
    practice: 'estudiar, repasar, aprender, memorizar, practicar',
    discussion: 'comentar, debatir, participar en el foro',
  },
  joints: `
    de, del, al, a, sobre, para, en, con, por, el, la, los, las, un, una, y, o, e, sin, desde, hasta, que,
    según, entre, tu, tus, su, sus`,
  due: `
    entrega, entregar, fecha límite, fecha de entrega, plazo, fin de plazo, último día para, vence, para
    entregar`,
  opens: `
    abre, abierto, abierta, disponible, disponibles, empieza, comienza, publicado, publicadas, publicados, se
    abre, inicio, aplazado, aplazada`,
  closes: 'cierra, termina, acaba, se cierra, finaliza',
  shut: 'cerrado, cerrada, cerrados, cerradas',
  off: 'cancelado, cancelada, suspendido, suspendida, se suspende',
  none: 'no hay, sin, no habrá',
  school: 'clase, clases, escuela, colegio, instituto, curso',
  reminds: 'recordatorio, aviso, atención, recuerda, recordad, nota, importante',
};

export const NORWEGIAN: Language = {
  nouns: {
    assignment: `
      lekse, lekser, oppgave, oppgaver, innlevering, innleveringsoppgave, hjemmelekse, arbeidskrav, øving,
      øvinger, rapport, labrapport, laboratorierapport, logg, dagbok, refleksjonsnotat, notat, sammendrag, utkast,
      skjema, slipp, lapp, samtykke, samtykkeskjema, svarslipp, påmelding, betaling, egenandel, penger, plakat,
      tegning, skisse, dikt, brev, arbeidsbok, ark, oppgaveark, arbeidsark, spørsmål, svar, bok, biblioteksbøker,
      video, film, presentasjonsfil, besvarelse, analyse, tekst, artikkel, leserinnlegg, novelle, bokanmeldelse,
      anmeldelse, spørreskjema, søknad, kontrakt, matteoppgaver, regneoppgaver, modell, problemløsning, rettelser,
      ukelekse, ukeoppgave, fagtekst`,
    project: `
      prosjekt, prosjektoppgave, semesteroppgave, bacheloroppgave, masteroppgave, mappe, stil, essay,
      fordypningsoppgave, mappeinnlevering, særoppgave`,
    discussion: 'forum, foruminnlegg, diskusjonsinnlegg, kommentar, innlegg i forum, innlegg',
    reading: 'lesing, kapittel, sider, leselekse, lese',
    practice: 'gloser, gangetabellen, repetisjon, øveord, verb, øvelse',
    test: `
      prøve, prøver, heldagsprøve, eksamen, muntlig eksamen, tentamen, glosetest, gloseprøve, test, tester,
      kartleggingsprøve, nasjonal prøve, nasjonale prøver, quiz, mattetest, leseprøve, diktat, høring, skriftlig
      eksamen, terminprøve, fagsamtale, vurdering, muntlig`,
    lesson: `
      time, timer, forelesning, undervisning, seminar, kurs, verksted, gruppetime, veiledning, labøvelse,
      leksehjelp, økt, workshop, kollokvie, gymtime, svømming`,
    trip: `
      tur, klassetur, ekskursjon, besøk, studietur, skitur, utflukt, leirskole, skoletur, dagstur, utveksling,
      museumsbesøk, skidag, aktivitetsdag, turdag, omvisning, leir`,
    meeting: `
      møte, foreldremøte, utviklingssamtale, samtale, konferansetime, øvelse kor, korøvelse, generalprøve,
      konsert, forestilling, fest, skolefest, sommerfest, turnering, kamp, trening, konkurranse, idrettsdag, time
      hos, tannlege, lege, legetime, åpen dag, åpen skole, avslutning, sommeravslutning, juleavslutning,
      utstilling, praksis, arbeidsuke, samling, intervju, fotografering, skolefotografering, foredrag,
      bursdagsfeiring, brannøvelse, dugnad, loppemarked, seremoni, vaksinasjon, vaksine, kor, korps, korpsøvelse,
      stevne, løp, foreldrekveld, kveld, klassefest, gudstjeneste, messe, utdanningsmesse, cup, fotballkamp, revy,
      skoleball, ball, teater`,
    dayOff: `
      ferie, høstferie, vinterferie, juleferie, påskeferie, sommerferie, fri, fridag, skolefri, planleggingsdag,
      planleggingsdager, inneklemt, helligdag, undervisningsfri, lesedag fri, påske, jul, 17 mai, kristi
      himmelfartsdag, elevfri, studiedag, kursdag, offentlig høytidsdag`,
    reminder: `
      karakterer, karakter, karakterutskrift, terminkarakterer, resultater, sensur, bursdag, påminnelse, husk,
      info, informasjon, beskjed, meny, ukeplan, timeplan, skolestart, semesterstart, siste skoledag, første
      skoledag, skoleslutt, vedlikehold, romendring, kontortid, innsamling, papirinnsamling, uke, vikar,
      elevundersøkelsen, sommertid, vintertid, fasit, pysjamasdag, temadag, karneval, valg, nytt semester, slutt
      på`,
  },
  vague: {
    assignment: 'presentasjon, framføring, fremføring, forsøk, lab',
    discussion: 'diskusjon, debatt',
    practice: 'øve',
    test: 'kontroll',
  },
  verbs: {
    assignment: `
      skriv, skrive, gjør, gjøre, lever, levere, lever inn, levere inn, last opp, laste opp, send, sende, send
      inn, ta med, ta med signert, fyll ut, fylle ut, signer, betal, betale, svar, svar på, løs, regn, tegn, lag,
      lage, fullfør, ferdigstill, finn, velg, meld deg, meld på, skriv ut, rett, oversett, bygg, klipp, forbered,
      undersøk, intervju en, filme, spill inn, returner, hent inn, bestill`,
    reading: 'les, lese, se, se film, hør, hør på, lytt',
    practice: `
      øv, øv på, øve, øve til, pugg, lær, lære, repeter, repetere, tren på, les til prøve, forbered deg`,
    discussion: 'diskuter, kommenter',
  },
  ends: {
    assignment: `
      oppgave, oppgaver, innlevering, rapport, notat, logg, dagbok, skjema, slipp, lapp, lekse, lekser, øving,
      tekst, ark, utkast, analyse, anmeldelse, tegning, plakat, penger, påmelding, besvarelse, hefte`,
    project: `
      prosjekt, semesteroppgave, prosjektoppgave, bacheloroppgave, masteroppgave, fordypningsoppgave`,
    test: 'prøve, prøven, prøver, eksamen, tentamen, test, quiz',
    lesson: 'forelesning, undervisning, seminar, kurs, verksted, time, timen, veiledning',
    trip: 'tur, turen, ekskursjon, besøk, utflukt, utveksling, leir',
    meeting: `
      møte, møtet, samtale, konsert, forestilling, fest, turnering, kamp, trening, konkurranse, avslutning,
      utstilling, øvelse, dugnad, stevne, praksis, kveld, fotografering, messe, foredrag, dag`,
    dayOff: 'ferie, ferien, fri, planleggingsdag, fridag, helligdag',
    reminder: 'karakterer, start, slutt, uke, plan, innsamling, vedlikehold, bursdag',
    reading: 'kapittel',
  },
  joints: `
    til, om, i, på, av, for, med, fra, og, eller, ved, etter, før, under, hos, den, det, de, en, ei, et, ditt,
    din, dine, mellom, over, som, dette`,
  due: `
    frist, innleveringsfrist, leveringsfrist, forfaller, siste frist, leveres, leveres inn, påmeldingsfrist,
    søknadsfrist, må leveres, siste dag for`,
  opens: `
    åpner, tilgjengelig, åpen, begynner, starter, publisert, publiseres, legges ut, åpnes, utsatt, flyttet`,
  closes: 'stenger, slutter, lukkes, utløper, avsluttes',
  shut: 'stengt, lukket',
  off: 'avlyst, utgår, innstilt',
  none: 'ingen, ikke, uten',
  school: 'skole, undervisning, time, timer, forelesning, skoledag, sfo, gym, barnehage',
  reminds: 'påminnelse, husk, obs, info, nb, viktig, beskjed',
};
