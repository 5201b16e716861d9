# Words of the public page, its answers, certificates, notices and letters. A further language is one more file like this one.
language-name = English

page-title = Report a tagged fish
page-closed = There is no open page at this address. Check the address on the tag or the notice.
page-loading = Loading the page...
ask = You found a tag, or caught a fish with one? Tell us, and we will tell you the story of your fish.
alive-first = Is the fish alive? Read the tag, keep the fish wet, and let it go. Everything else can wait.
reach-us = Or reach us:

number = Number on the tag
number-hint = Letters and digits as far as you can read them; put ? for one that you cannot read.
photo = Photo of the tag or the fish
photo-add = Take or choose a photo
photo-remove = Remove photo
photo-hint = If you cannot read the number, a photo of it is enough. Please, no people in the picture.
photo-working = Making the photo smaller...
species = Kind of fish
species-unknown = I do not know
when = When did you find it?
when-today = Today
when-yesterday = Yesterday
when-other = Another day
when-unknown = I do not know
day = Day
day-about = About; it may be some days off
where = Where was it?
where-here = I am there now: use my position
where-position = Position taken, good to { NUMBER($m, maximumFractionDigits: 0) } m.
where-finding = Finding your position...
where-refused = Your phone did not give a position. Describe the place, or touch the map.
where-map = Show the place on a map
where-map-hint = Touch the place on the map. Zoom with + and −.
map-nearer = Nearer
map-farther = Farther
map-whole = Whole
where-touched = Place marked on the map.
where-clear = Remove position
where-words = The place in words
where-words-hint = Such as: below the weir, east bank
more = Length, weight and how it was caught
length = Length
weight = Weight
estimated = Estimated, not measured
means = How was it caught?
means-rod = Rod and line
means-net = Net
means-trap = Trap or pot
means-dead = Found dead
means-market = Market or cleaning table
means-other = Another way
fish = What became of the fish?
fish-released = Released alive
fish-kept = Kept
fish-dead = Dead
tag = And the tag?
tag-left = Still in the fish
tag-removed = I have it
unknown = Not known
remarks = Anything else?
contact = May we write to you?
contact-hint = Only if you would like an answer from a person. You can leave this empty.
contact-name = Name
contact-email = E-mail
contact-telephone = Telephone
contact-post = Postal address
contact-consent = I agree that this is kept until { $days } days after my report has been looked at. I can have it erased at any time.
contact-under-age = I am under 16
contact-guardian = Name of the parent or guardian who agrees
send = Send report
sending = Sending...
send-failed = The report could not be sent: there is no connection. It is kept on this phone; try again when you have a signal.
errors-found = Please look at the marked field.
language = Language

error-report_empty = Please give the number on the tag, or a photo of it.
error-tag_number_missing = Please give the letters and digits on the tag.
error-day_impossible = Please give a day from 1950 until today.
error-position_half = Please give the position again.
error-length = Please give the length as a number, such as 42.5.
error-mass = Please give the weight as a number, such as 1.2.
error-picture_unreadable = This file is not a picture that we can read (JPEG, PNG or WebP).
error-picture_too_large = This picture is too large. Please send a smaller one.
error-consent_missing = Please agree that we keep how to reach you, or leave your name and contact empty.
error-guardian_missing = Please give the name of the parent or guardian who agrees.
error-too_many_reports = Very many reports are coming in at this moment. Please try again in an hour, or reach us by telephone or e-mail. Keep the tag.
error-other = Something in the report could not be taken: { $message }

thanks = Thank you!
waits = A person will look at your report. Thank you for your help: every report counts.
waits-contact = We will write to you.
waits-link = Save this page's address to see the answer later.
asked = We have a question about your report:
verified = Your report has been verified.
rejected = We could not match your report with one of our fish. Thank you for telling us all the same.
story-title = The story of your fish
story-tagged = Tagged on { DATETIME($date, dateStyle: "long") }, { $place }: { $species }.
story-length = It was { NUMBER($cm, maximumFractionDigits: 1) } cm long then.
story-days = You met it { $days ->
    [one] { $days } day
   *[other] { $days } days
  } later.
story-distance = It had gone { NUMBER($km, maximumFractionDigits: 1) } km from there, in a straight line.
story-growth = It had grown by { NUMBER($cm, maximumFractionDigits: 1) } cm.
story-met = It has been met { $times ->
    [one] once
   *[other] { $times } times
  } before.
story-unverified = As far as we can tell at once; a person will check your report.
certificate-picture = Save the certificate as a picture
certificate-share = Share the certificate
certificate-pdf = Certificate to print (PDF)
certificate-title = A tagged fish was reported
certificate-number = Tag { $number }
certificate-found = Reported from { DATETIME($date, dateStyle: "long") }
erase = Erase my name and contact
erased = Your name and contact have been erased. The report stays, without them.
another = Report another tag

notice-title = Have you caught a tagged fish?
notice-ask = Every tag that is reported shows how fish live, move and grow here. Report it within a minute, without an account, and hear the story of your fish.
notice-steps = Point your phone's camera at the code, or type the address:
notice-give = Tell us: the number on the tag; the kind of fish; where and when; what became of the fish and the tag.
notice-keep = If you let the fish go, leave the tag in it and let it go quickly. If you keep the fish, keep the tag too.
notice-privacy = You need not give your name.
notice-reach = Or reach us:

letter-greeting = { $name ->
    [none] Hello,
   *[other] Hello { $name },
  }
reward-promised = A reward of { $amount } is promised for this report. If you left an address, the programme writes to you about it.
reward-waits = This tag carries a reward of { $amount }. A person looks at your report first, then writes to you, if you left an address.
letter-thanks-subject = Thank you for reporting a tagged fish
letter-thanks = thank you for your report of tag { $number }. It has been checked and is now part of the record of { $programme }.
letter-question-subject = A question about the tagged fish that you reported
letter-question = thank you for your report of tag { $number } to { $programme }. We have a question about it:
letter-answer-by-reply = Please answer this letter.
letter-link = The story of your fish, with a certificate: { $link }
letter-contact = You can have your name and contact erased there at any time.

letter-cards-subject = Please complete your tagging cards
letter-cards = { $cards ->
    [one] one of your cards for { $programme } is not complete yet. It is missing:
   *[other] { $cards } of your cards for { $programme } are not complete yet. They are missing:
  }
letter-cards-link = You can add it here, on your phone or computer: { $link }
letter-cards-thanks = If you do not know something any more, leave it empty. Thank you for every fish.
letter-card-unnamed = a card without a number
letter-card-day = { DATETIME($date, dateStyle: "medium") }
letter-card-number-text = the tag number
letter-card-species = the species
letter-card-length-mm = the length, and whether it was measured
letter-card-caught-on = the date
letter-card-block = the time of day
letter-card-place = the place, in words or as a position
letter-card-condition = the condition at release
letter-card-tagger-number = your tagger number
letter-card-check-number = please check the tag number
