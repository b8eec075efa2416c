import type { ItemKind } from '../kind.ts';
import type { Language } from './language.ts';
import { FRENCH, GERMAN, NORWEGIAN, SPANISH } from './other-languages.ts';

/** Coarse sorts of entries: work, a test, somewhere to be, no school, only to know. */
export const SORTS = ['work', 'test', 'place', 'off', 'know'] as const;
export type Sort = (typeof SORTS)[number];

/** Maps each kind to its sort. */
export const SORT_OF: Record<ItemKind, Sort> = {
  assignment: 'work',
  discussion: 'work',
  project: 'work',
  reading: 'work',
  practice: 'work',
  test: 'test',
  meeting: 'place',
  lesson: 'place',
  trip: 'place',
  dayOff: 'off',
  reminder: 'know',
};

const ENGLISH: Language = {
  nouns: {
    assignment: `
      pages, page, homework, home work, hw, assignment, worksheet, work sheet, sheet, exercise, task, problem set,
      pset, problem, question, form, slip, pack, packet, booklet, workbook, draft, version, proposal, outline,
      summary, reflection, journal, diary, log, logbook, log book, blog, blog post, report, write-up, write up,
      writeup, letter, application, paragraph, poem, story, short story, comic, leaflet, brochure, flyer, sketch,
      sketchbook, drawing, painting, collage, self-portrait, notes, note, map, timeline, time line, diagram,
      graph, chart, spreadsheet, dataset, data set, program, code, prototype, translation, transcript, annotation,
      bibliography, annotated bibliography, works cited, abstract, literature review, book review, film review,
      case study, coursework, course work, response, reading response, reading log, reading record, corrections,
      correction, checklist, check list, glossary, questionnaire, survey, evaluation, self-evaluation,
      self-assessment, self assessment, peer assessment, peer evaluation, contract, agreement, waiver, permission,
      consent, payment, money, instalment, installment, deposit, fee, subscription, order, rsvp, sign-up, sign up,
      signup, registration, enrolment, enrollment, booking, permission slip, consent form, medical form, library
      book, library books, textbook return, equipment return, recipe, menu plan, budget, business plan, lesson
      plan, plan, workplan, action plan, storyboard, script, screenplay, monologue, recording, voice recording,
      video, podcast, slides, slide deck, poster, model, pot, artefact, artifact, submission, upload,
      hand-in, handin, hand in, deliverable, analysis, commentary, argument, critique sheet, entry, journal entry,
      profile, interview transcript, hypothesis, results table, calculations, puzzle, crossword, word search,
      wordsearch, colouring, colouring sheet, spelling sentences, sentences, workings, proof, proofs, equations,
      vocabulary sheet, grammar sheet, observation sheet, observations, observation, field notes, lab
      notes, lab book, lab log, lab report, lab write-up, prelab, pre-lab, pre-lab questions, postlab, post-lab,
      cover letter, cv, resume, personal statement, reference form, evidence, take-home exam, take-home
      test, take home exam, take home test, take-home quiz, test corrections, quiz corrections, exam corrections,
      lines, dissertation draft, thesis draft, ballot, vote, nomination, bibliography cards, index cards, note
      cards, notecards, minutes, memo, press release, petition, speech draft, costume, kit list, packed lunch,
      tin, tins, food bank donation, donation, donations, timesheet, time sheet, hours log, mood board, moodboard,
      family tree, fact file, factfile, fact sheet, character study, book report, film report, article, column,
      news report, newsletter article, editorial, caption, captions, haiku, sonnet, limerick, postcard, thank-you
      letter, thank you letter, pledge, scrapbook, exit ticket, entrance ticket, do now, warm-up, warm up sheet,
      challenge, maths challenge sheet, past paper, past papers, practice paper, practice papers, mock paper, quiz
      questions, spreadsheets, solutions, solution, answers, answer, answer sheet, peer feedback,
      feedback form, essay plan, source analysis, data collection, data, findings, logo, design, designs, website,
      web page, app, animation, sculpture, print, prints, photo, photos, photograph, photographs, photo essay,
      composition, arrangement, score, melody, playlist, apron, ingredients, passport photo, passport copy, copy
      of passport, birth certificate, insurance form, health form, emergency contact form, contact form, dietary
      form, card, cards, claim, coding exercise, lab exercise, kata, commit, pull request, bug fix, release notes,
      balance, practice set, set, balance payment, handwriting, permission note, doctors note, activity,
      activities, self-check, self check, simulation, simulations, checkpoint, pitch, charter, rewrite, topic
      choice, choices form, option choices, agenda, brainstorm, mind map, mindmap, concept map, venn diagram,
      labels, audio guide, programme notes, constitution, debrief, peer marking, mark-up, tuck money, textbooks,
      keys`,
    project: `
      project, milestone, portfolio, dissertation, thesis, essay, research paper, term paper, position paper,
      paper, extended essay, capstone, investigation, science fair project, epq, personal project, group project`,
    discussion: `
      discussion post, discussion board, discussion forum, forum post, forum, discussion question, discussion
      reply, peer review, peer response, reply, replies, comment, comments, board post, thread`,
    reading: 'chapter, chapters, reading assignment, set reading, required reading, ch, pp',
    practice: `
      flashcards, word list, vocabulary, vocab, vocab list, spellings, spelling, spelling list, spelling words,
      times tables, times table, revision, revision notes, revision cards, flash cards, scales, instrument
      practice, piano practice, reading practice, typing practice, practice log book, memory verse, exam
      preparation, test preparation, exam prep, test prep, quiz prep, study guide, irregular verbs, drill sheet`,
    test: `
      test, tests, exam, exams, examination, quiz, quizzes, midterm, mid-term, mid term, midterm exam, mid-term
      exam, final exam, final examination, viva, oral exam, speaking exam, listening exam, listening test, reading
      test, vocabulary test, vocab test, spelling test, spelling bee, vocab quiz, pop quiz, mock, mocks, mock
      exam, mock exams, dictation, controlled assessment, in-class essay, in class essay, timed essay, practical
      exam, oral defence, oral defense, defence, thesis defense, thesis defence, entrance exam, entrance test,
      placement test, driving test, theory test, swim test, fitness test, bleep test, knowledge check, concept
      check, multiple choice, mcq, olympiad, aptitude test, maths challenge, hazard test, grade exam, piano exam,
      music exam, osce, oral test, practical assessment, practical test, resit, retake, exam week, exams week,
      finals week, test week, final exams, baseline test, baseline tests`,
    lesson: `
      lesson, lessons, lecture, lectures, seminar, class, classes, workshop, tutorial, tutorials, period, form
      time, homeroom, registration period, lab session, lab class, practical class, studio session, taster lesson,
      masterclass, master class, webinar, live session, supervision, fieldwork, field work, study hall, study
      period, homework club, homework help`,
    trip: `
      trip, field trip, excursion, outing, tour, field day, visit, visits, class visit, school trip, ski trip, day
      trip, expedition, residential, exchange, exchange visit, camp, school camp, theatre trip, museum visit, site
      visit, campus tour, camping weekend, retreat, pilgrimage, cruise, walk, hike, hiking trip`,
    meeting: `
      meeting, mtg, club, appointment, session, sessions, rehearsal, rehearsals, dress rehearsal, tech rehearsal,
      gala, match, game, fixture, tournament, championship, championships, concert, performance, show, talent
      show, play, musical, recital, assembly, evening, evenings, parents' evening, parents evening, parent
      evening, open evening, information evening, options evening, night, parents' night, open night, fair, book
      fair, science fair, careers fair, job fair, festival, placement, work experience, training, trials,
      try-outs, tryouts, tryout, audition, auditions, taster, talk, guest talk, careers talk, conference,
      parent-teacher conference, parent teacher conference, parents' conference, interview, interviews, mock
      interview, party, picnic, ceremony, graduation, prize giving, prizegiving, prize-giving, awards, award
      ceremony, awards ceremony, competition, contest, race, regatta, open day, open house, sports day, swim meet,
      meet, track meet, gymkhana, clinic, consultation, surgery, drop-in, drop in, briefing, induction,
      orientation, screening, film screening, exhibition, opening night, hearing, moot, prom, ball, disco, dance,
      breakfast, lunch, dinner, supper, barbecue, bbq, bake sale, cake sale, sale, jumble sale, choir, band,
      orchestra, gym, yoga, football, soccer, hockey, netball, basketball, volleyball, rugby, tennis, swimming,
      athletics, cricket, badminton, judo, karate, ballet, drama club, chess club, debate club, service, carol
      service, mass, church service, memorial, parade, dentist, doctor, orthodontist, optician, check-up, checkup,
      physio, therapy, speech therapy, counselling, vaccination, vaccinations, flu jab, jab, eye test, hearing
      test, fire drill, drill, photo day, class photo, class photos, school photo, school photos, photographer,
      picture day, reception, coffee morning, tea party, sleepover, webinar evening, hackathon, bootcamp, boot
      camp, quiz night, trivia night, bingo, pub quiz, film night, movie night, games night, welcome week,
      freshers fair, get-together, gathering, reunion, shift, rota, duty, volunteering, litter pick, clean-up,
      clean up, beach clean, blood drive, driving lesson, music lesson, demonstration, demo, launch, presentation
      evening, assembly hall, kick-off, kickoff, study group, standup, stand-up, sprint review, retrospective,
      one-to-one, 1:1, check-in`,
    dayOff: `
      holiday, holidays, break, half term, half-term, mid-term break, midterm break, day off, days off, vacation,
      closure, recess, leave, study leave, inset, inset day, staff day, staff development day, staff training day,
      teacher training day, teachers' training day, teacher day, teacher workday, teacher work day, professional
      development day, pd day, pupil-free day, student-free day, non-teaching day, planning day, bank holiday,
      public holiday, national holiday, snow day, strike day, reading week, study week, spring break, winter
      break, autumn break, fall break, summer break, christmas break, easter break, thanksgiving break,
      thanksgiving, christmas, easter, easter monday, good friday, boxing day, new year's day, labour day, labor
      day, memorial day, independence day, st patrick's day, may day, exeat, exeat weekend, long weekend, half day
      holiday, school closure, mid-semester break, term break, intersession, off-timetable day, teacher-only day,
      curriculum day, conference day, occasional day, occasional days, trainings day, staff only day, holiday
      monday`,
    reminder: `
      grades, marks, results, results day, report cards, report card, feedback, office hours, office hour,
      reminder, birthday, anniversary, notice, announcement, maintenance, repairs, collection, recycling
      collection, menu, lunch menu, timetable, new timetable, timetable change, schedule change, room change,
      change of room, deadline extension, census date, no-uniform day, non-uniform day, non uniform day, mufti
      day, dress-down day, dress down day, own clothes day, pyjama day, jersey day, costume day, dress-up day,
      world book day, crazy hair day, odd socks day, half day, early dismissal, early closing, early finish, early
      release, late start, delayed start, late opening, minimum day, a week, b week, week a, week b, day a, day b,
      a day, b day, first day, last day, first day of term, last day of term, end of term, start of term,
      beginning of term, end of semester, start of semester, end of quarter, end of the quarter, back to school,
      term dates, clock change, clocks change, daylight saving, moon, anti-bullying week, science week, book week,
      spirit week, book club pick, newsletter, update, outage, downtime, system maintenance, power cut, supply
      teacher, cover teacher, substitute, substitute teacher, visitors, inspection, elections, election
      day, pickup day, pick-up day, sale of uniforms, lost property, themed lunch, pancake day, payday, marking
      period, grading period, answer key, model answers, sample answers, solutions posted, mark scheme, rubric,
      syllabus, course outline, handout, lecture slides, lecture notes, lecture recording, waiting list, seating
      plan, exam timetable, exam schedule, cohort b, national day of, clocks go back, clocks go forward, alarm
      test, alarm testing, building work, building works, roadworks, ramadan, eid, diwali, hanukkah, passover,
      lent, advent, heritage month, eclipse, moved to online, exam board visit, fire alarm test`,
  },
  vague: {
    assignment: `
      lab, labs, review, sign-off, lab practical, studio, worksheet session, experiment, week task, presentation,
      presentations, speech, research, notebook, quiz review sheet, test review sheet, portfolio check, log check,
      logbook check, notebook check, homework check, uniform, check, section, part, unit, module, critique`,
    discussion: 'discussion, debate, response session',
    practice: 'practice, practise, study, drill practice',
    reading: 'reading, readings',
    lesson: 'practical',
    meeting: 'group, help, day, days',
    reminder: 'week, month',
    test: `
      assessment, assessments, oral, orals, final, mid-unit assessment, unit assessment, level test, grading,
      trial exam, audit, finals`,
  },
  verbs: {
    assignment: `
      write, finish, finish off, complete, bring, bring in, bring back, hand in, hand over, turn in, submit,
      upload, send, send in, return, sign, get signed, pay, fill in, fill out, solve, do, make, build, collect,
      register, enrol, enroll, sign up, choose, pick, buy, find, keep, create, update, correct, redo, rewrite,
      revise and resubmit, resubmit, translate, colour, color, cut out, annotate, summarise, summarize, compare,
      describe, explain, calculate, take a photo, shade, draw, paint, sew, glaze, interview a, interview someone,
      interview your, identify, list, prove, type up, write up, copy out, apply, apply for, book your, nominate,
      cast your, deliver, donate, illustrate, edit, proofread, implement, deploy, evaluate, reflect on, submit
      your, give in, drop off, renew, confirm, choose your, rsvp, scan, attach, investigate, brainstorm, gather,
      decorate, knit, bake, assemble, carve, prep your, set up your, photograph, invent, convert, simplify,
      factorise, expand, tabulate, mark your, construct, analyse, analyze, document, outline the, plan your, plan
      a, plan the, research a, research the, research your, research one, record yourself, record a, record your,
      design a, design your, design an, sketch a, sketch the, sketch your, sketch three, sketch two, draft your,
      draft a, draft the, map the, map your, report on, present your, test your, ask`,
    reading: `
      pages, page, pp, read, re-read, reread, skim, finish reading, listen to, watch, view, preview`,
    practice: `
      revise, revise for, study for, study the, study chapter, study chapters, prepare, prepare for, prep for,
      practise, practice your, practice the, learn, learn by heart, memorise, memorize, rehearse your, rehearse
      the, review chapter, review chapters, review your, review the, review for, go over, get ready for, recite,
      revising for, studying for`,
    discussion: `
      discuss, post, reply to, respond to, comment on, contribute to, react to, give feedback`,
    test: 'take the, take a, take your, sit the',
    meeting: 'meet, meet at, meet with, attend, come to, join, join us, go to, visit',
    reminder: 'wear, note that, welcome, welcome to, welcome back, happy, return to school',
  },
  vagueVerbs: {
    assignment: `
      research, design, sketch, draft, plan, record, map, report, present, vote, order, answer, film, print, copy,
      code, plot, share, cook, label, email, e-mail, pack, push, graph, fix, trace, measure`,
    practice: 'study, practice, review',
  },
  joints: `
    for, of, on, about, with, in, at, from, to, by, after, before, during, and, or, into, using, until, till,
    via, vs, without, between, near, around, as, that, which, how, who, why, the, a, an, your, our, then, this,
    next, per, if, when, over, under, against, please`,
  due: `
    due, deadline, due date, final deadline, hand-in date, submission deadline, submission date, cut-off,
    cutoff, last chance to, last day to, overdue, to be handed in, to hand in, to be returned, must be in, needs
    to be in, to be submitted, returned to, back to the office, brought back`,
  opens: `
    opens, open, opening, available, available from, released, published, posted, begins, begin, starts, start,
    is live, goes live, go live, announced, returned, handed back, handed out, online now, resumes, resume,
    introduced, is up, are up, revealed, unlocked, unlocks, ready, extended, moved, postponed, rescheduled, is
    away, is absent, sent home, go home, goes home`,
  closes: `
    closes, close, closing, ends, end, availability ends, expires, locks, finishes, closing date, open until,
    open till, available until, available till, opens until`,
  shut: 'closed, is closed, are closed, shut, out of order, unavailable, out of use',
  off: `
    cancelled, canceled, is cancelled, are cancelled, called off, suspended, does not meet, not meeting, will
    not meet, do not meet`,
  none: 'no, not any, without',
  school: `
    school, schools, college, campus, university, class, classes, lesson, lessons, lecture, lectures, seminar,
    seminars, teaching, tuition, kindergarten, nursery, students, pupils, children`,
  reminds: `
    reminder, friendly reminder, remember, don’t forget, don't forget, heads up, fyi, note, nb, announcement,
    notice`,
};

export const LANGUAGES: readonly Language[] = [ENGLISH, GERMAN, FRENCH, SPANISH, NORWEGIAN];
