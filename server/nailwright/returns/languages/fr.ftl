language-name = Français

page-title = Signaler un poisson marqué
page-closed = Aucune page n'est ouverte à cette adresse. Vérifiez l'adresse sur la marque ou sur l'affiche.
page-loading = Chargement de la page...
ask = Vous avez trouvé une marque, ou pris un poisson qui en porte une ? Dites-le-nous, et nous vous raconterons l'histoire de votre poisson.
alive-first = Le poisson est vivant ? Lisez la marque, gardez le poisson mouillé et relâchez-le. Tout le reste peut attendre.
reach-us = Ou contactez-nous :

number = Numéro de la marque
number-hint = Les lettres et les chiffres que vous pouvez lire ; mettez ? pour un signe illisible.
photo = Photo de la marque ou du poisson
photo-add = Prendre ou choisir une photo
photo-remove = Retirer la photo
photo-hint = Si le numéro est illisible, une photo suffit. Merci de ne montrer personne sur l'image.
photo-working = Réduction de la photo...
species = Espèce
species-unknown = Je ne sais pas
when = Quand l'avez-vous trouvé ?
when-today = Aujourd'hui
when-yesterday = Hier
when-other = Un autre jour
when-unknown = Je ne sais pas
day = Jour
day-about = Environ, à quelques jours près
where = Où était-ce ?
where-here = J'y suis : utiliser ma position
where-position = Position prise, à { NUMBER($m, maximumFractionDigits: 0) } m près.
where-finding = Recherche de votre position...
where-refused = Votre téléphone n'a pas donné de position. Décrivez le lieu, ou touchez la carte.
where-map = Montrer le lieu sur une carte
where-map-hint = Touchez le lieu sur la carte. Agrandissez avec + et −.
map-nearer = Plus près
map-farther = Plus loin
map-whole = Tout
where-touched = Lieu indiqué sur la carte.
where-clear = Retirer la position
where-words = Le lieu en quelques mots
where-words-hint = Par exemple : sous le barrage, rive est
more = Longueur, poids et mode de capture
length = Longueur
weight = Poids
estimated = Estimé, non mesuré
means = Comment a-t-il été pris ?
means-rod = À la ligne
means-net = Au filet
means-trap = Nasse ou casier
means-dead = Trouvé mort
means-market = Au marché ou au nettoyage
means-other = Autrement
fish = Qu'est devenu le poisson ?
fish-released = Relâché vivant
fish-kept = Gardé
fish-dead = Mort
tag = Et la marque ?
tag-left = Encore dans le poisson
tag-removed = Je l'ai
unknown = Inconnu
remarks = Autre chose ?
contact = Pouvons-nous vous écrire ?
contact-hint = Seulement si vous souhaitez la réponse d'une personne. Vous pouvez laisser ceci vide.
contact-name = Nom
contact-email = E-mail
contact-telephone = Téléphone
contact-post = Adresse postale
contact-consent = J'accepte que ces données soient gardées jusqu'à { $days } jours après l'examen de mon signalement. Je peux les faire effacer à tout moment.
contact-under-age = J'ai moins de 16 ans
contact-guardian = Nom du parent ou tuteur qui donne son accord
send = Envoyer
sending = Envoi...
send-failed = L'envoi a échoué : pas de connexion. Le signalement est gardé sur ce téléphone ; réessayez quand vous aurez du réseau.
errors-found = Merci de regarder le champ indiqué.
language = Langue

error-report_empty = Merci d'indiquer le numéro de la marque, ou d'en joindre une photo.
error-tag_number_missing = Merci d'indiquer les lettres et les chiffres de la marque.
error-day_impossible = Merci d'indiquer un jour entre 1950 et aujourd'hui.
error-position_half = Merci d'indiquer la position à nouveau.
error-length = Merci d'indiquer la longueur en chiffres, par exemple 42,5.
error-mass = Merci d'indiquer le poids en chiffres, par exemple 1,2.
error-picture_unreadable = Ce fichier n'est pas une image que nous pouvons lire (JPEG, PNG ou WebP).
error-picture_too_large = Cette image est trop grande. Merci d'en envoyer une plus petite.
error-consent_missing = Merci d'accepter que nous gardions vos coordonnées, ou laissez le nom et les coordonnées vides.
error-guardian_missing = Merci d'indiquer le nom du parent ou tuteur qui donne son accord.
error-too_many_reports = Un très grand nombre de signalements arrive en ce moment. Réessayez dans une heure, ou contactez-nous par téléphone ou par e-mail. Gardez la marque.
error-other = Un élément du signalement n'a pas pu être pris : { $message }

thanks = Merci !
waits = Une personne va examiner votre signalement. Merci de votre aide : chaque signalement compte.
waits-contact = Nous vous écrirons.
waits-link = Gardez l'adresse de cette page pour voir la réponse plus tard.
asked = Nous avons une question sur votre signalement :
verified = Votre signalement a été vérifié.
rejected = Nous n'avons pas pu relier votre signalement à l'un de nos poissons. Merci tout de même de nous l'avoir dit.
story-title = L'histoire de votre poisson
story-tagged = Marqué le { DATETIME($date, dateStyle: "long") }, { $place } : { $species }.
story-length = Il mesurait alors { NUMBER($cm, maximumFractionDigits: 1) } cm.
story-days = Vous l'avez rencontré { $days ->
    [one] { $days } jour
   *[other] { $days } jours
  } plus tard.
story-distance = Il était allé à { NUMBER($km, maximumFractionDigits: 1) } km de là, à vol d'oiseau.
story-growth = Il avait grandi de { NUMBER($cm, maximumFractionDigits: 1) } cm.
story-met = Il a été rencontré { $times ->
    [one] une fois
   *[other] { $times } fois
  } auparavant.
story-unverified = C'est ce que nous pouvons dire tout de suite ; une personne vérifiera votre signalement.
certificate-picture = Enregistrer le certificat comme image
certificate-share = Partager le certificat
certificate-pdf = Certificat à imprimer (PDF)
certificate-title = Un poisson marqué a été signalé
certificate-number = Marque { $number }
certificate-found = Signalé le { DATETIME($date, dateStyle: "long") }
erase = Effacer mon nom et mes coordonnées
erased = Votre nom et vos coordonnées sont effacés. Le signalement reste, sans eux.
another = Signaler une autre marque

notice-title = Vous avez pris un poisson marqué ?
notice-ask = Chaque marque signalée montre comment les poissons vivent, se déplacent et grandissent ici. Signalez-la en une minute, sans compte, et découvrez l'histoire de votre poisson.
notice-steps = Visez le code avec l'appareil photo du téléphone, ou tapez l'adresse :
notice-give = Dites-nous : le numéro de la marque ; l'espèce ; où et quand ; ce que sont devenus le poisson et la marque.
notice-keep = Si vous relâchez le poisson, laissez-lui la marque et relâchez-le vite. Si vous gardez le poisson, gardez aussi la marque.
notice-privacy = Vous n'avez pas besoin de donner votre nom.
notice-reach = Ou contactez-nous :

letter-greeting = { $name ->
    [none] Bonjour,
   *[other] Bonjour { $name },
  }
reward-promised = Une récompense de { $amount } est promise pour ce signalement. Si vous avez laissé une adresse, le programme vous écrira à ce sujet.
reward-waits = Cette marque donne droit à une récompense de { $amount }. Une personne examine d'abord votre signalement, puis vous écrit, si vous avez laissé une adresse.
letter-thanks-subject = Merci d'avoir signalé un poisson marqué
letter-thanks = merci de votre signalement de la marque { $number }. Il a été vérifié et fait maintenant partie des données de { $programme }.
letter-question-subject = Une question sur le poisson marqué que vous avez signalé
letter-question = merci de votre signalement de la marque { $number } à { $programme }. Nous avons une question :
letter-answer-by-reply = Merci de répondre à cette lettre.
letter-link = L'histoire de votre poisson, avec un certificat : { $link }
letter-contact = Vous pouvez y faire effacer votre nom et vos coordonnées à tout moment.

letter-cards-subject = Merci de compléter vos fiches de marquage
letter-cards = { $cards ->
    [one] une de vos fiches pour { $programme } n'est pas encore complète. Il y manque :
   *[other] { $cards } de vos fiches pour { $programme } ne sont pas encore complètes. Il y manque :
  }
letter-cards-link = Vous pouvez l'ajouter ici, sur votre téléphone ou votre ordinateur : { $link }
letter-cards-thanks = Si vous ne savez plus quelque chose, laissez la case vide. Merci pour chaque poisson.
letter-card-unnamed = une fiche sans numéro
letter-card-day = { DATETIME($date, dateStyle: "medium") }
letter-card-number-text = le numéro de la marque
letter-card-species = l'espèce
letter-card-length-mm = la longueur, et si elle a été mesurée
letter-card-caught-on = la date
letter-card-block = le moment de la journée
letter-card-place = le lieu, en mots ou par une position
letter-card-condition = l'état à la remise à l'eau
letter-card-tagger-number = votre numéro de marqueur
letter-card-check-number = merci de vérifier le numéro de la marque
