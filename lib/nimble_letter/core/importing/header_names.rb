# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Names people give to columns, in eight languages. The catalogue's own labels are known besides (ColumnMatching).
      module HeaderNames
        # By target: English, German, French, Spanish, Italian, Dutch, Portuguese, Polish; folded when they are compared.
        NAMES = {
          "person.first_name" => <<~WORDS,
            first, given name, forename, christian name, fname, firstname, given names
            Vorname, Vornamen, Rufname
            prénom, prénoms, nom de baptême
            nombre, nombre de pila, nombres
            nome proprio, nome di battesimo
            voornaam, voornamen, roepnaam
            primeiro nome, nome próprio, prenome
            imię, imiona
          WORDS
          "person.last_name" => <<~WORDS,
            last, surname, family name, lname, lastname, second name
            Nachname, Familienname, Zuname
            nom, nom de famille
            apellido, apellidos, primer apellido
            cognome
            achternaam, familienaam
            sobrenome, apelido, último nome
            nazwisko
          WORDS
          "person.name" => <<~WORDS,
            name, full name, fullname, contact, contact name, person, display name, whole name, contact person
            Name, voller Name, vollständiger Name, Ansprechpartner, Kontakt, Kontaktperson, Ansprechperson
            nom complet, nom et prénom, prénom et nom, personne de contact, interlocuteur
            nombre completo, nombre y apellidos, persona de contacto, contacto
            nome completo, nome e cognome, nominativo, referente, persona di contatto, contatto
            naam, volledige naam, contactpersoon
            nome, contato, pessoa de contato
            imię i nazwisko, nazwisko i imię, osoba kontaktowa, kontakt
          WORDS
          "person.email" => <<~WORDS,
            email, e-mail, mail, email address, e-mail address, mail address, email 1, primary email, work email, address of e-mail
            E-Mail-Adresse, Emailadresse, E-Mailadresse, Mailadresse, E-Post, elektronische Adresse, E-Mail geschäftlich
            courriel, adresse e-mail, adresse email, adresse électronique, adresse courriel, mél, adresse mail
            correo, correo electrónico, dirección de correo, dirección de correo electrónico, e-correo
            posta elettronica, indirizzo e-mail, indirizzo email, indirizzo di posta elettronica
            e-mailadres, emailadres, mailadres
            correio eletrónico, correio eletrônico, endereço de e-mail, endereço de email, endereço eletrónico
            adres e-mail, adres email, poczta elektroniczna, adres poczty elektronicznej
          WORDS
          "person.addresses" => <<~WORDS,
            further addresses, other addresses, other emails, email 2, second email, secondary email, private email
            home email, other e-mail
            weitere Adressen, weitere E-Mail-Adressen, E-Mail 2, zweite E-Mail, E-Mail privat
            autres adresses, autre adresse e-mail, e-mail secondaire, courriel 2
            otros correos, correo secundario
            altri indirizzi, e-mail secondaria
            andere adressen, tweede e-mailadres, e-mail privé
            outros endereços, e-mail secundário
            inne adresy, drugi adres e-mail
          WORDS
          "person.phone" => <<~WORDS,
            telephone, tel, phone number, telephone number, work phone, business phone, landline, tel no, phone no
            Telefon, Telefonnummer, Tel.-Nr., Telefon geschäftlich, Festnetz, Rufnummer, Telefon-Nr
            téléphone, numéro de téléphone, tél, téléphone fixe, téléphone professionnel
            teléfono, número de teléfono, teléfono fijo
            telefono, numero di telefono, telefono fisso
            telefoon, telefoonnummer, tel. nr
            telefone, número de telefone, telefone fixo
            telefon, numer telefonu, nr telefonu, telefon stacjonarny
          WORDS
          "person.mobile" => <<~WORDS,
            mobile, cell, mobile phone, cell phone, cellphone, mobile number, mobile telephone
            Handy, Mobil, Mobiltelefon, Handynummer, Mobilnummer, Mobilfunk
            portable, mobile, téléphone portable, gsm, numéro de portable
            móvil, celular, teléfono móvil
            cellulare, telefono cellulare, numero di cellulare
            mobiel, mobiele telefoon, mobiel nummer, gsm
            telemóvel, celular, telefone celular
            komórka, telefon komórkowy, numer komórki
          WORDS
          "person.company" => <<~WORDS,
            company, company name, organisation, organization, firm, employer, business, account, account name, organisation name
            Firma, Unternehmen, Firmenname, Betrieb, Arbeitgeber
            entreprise, société, raison sociale, nom de l'entreprise, employeur
            empresa, compañía, razón social, nombre de la empresa
            azienda, ditta, società, impresa, ragione sociale
            bedrijf, bedrijfsnaam, organisatie, onderneming
            empresa, companhia, nome da empresa, razão social
            firma, nazwa firmy, przedsiębiorstwo
          WORDS
          "person.job_title" => <<~WORDS,
            job title, position, role, function, job, occupation
            Beruf, Funktion, Berufsbezeichnung, Stelle, Rolle
            fonction, poste, profession, métier
            cargo, puesto, profesión, función
            mansione, ruolo, posizione, professione, qualifica
            functie, beroep, rol
            cargo, função, profissão
            stanowisko, funkcja, zawód
          WORDS
          "person.title" => <<~WORDS,
            salutation, prefix, honorific, form of address
            Anrede, Titel, akademischer Titel
            civilité, titre
            tratamiento, título
            titolo, appellativo
            aanhef, titel, aanspreking
            tratamento, título
            tytuł, zwrot grzecznościowy
          WORDS
          "person.city" => <<~WORDS,
            town, place, locality, post town
            Ort, Stadt, Wohnort
            ville, localité, commune
            ciudad, localidad, población
            città, località, comune
            plaats, stad, woonplaats
            cidade, localidade
            miasto, miejscowość
          WORDS
          "person.region" => <<~WORDS,
            county, state, province, state/province, district
            Land Kreis, Bundesland, Kanton, Kreis, Region
            région, département, province
            región, provincia, comunidad
            regione, provincia
            provincie, regio
            região, estado, distrito
            województwo, region
          WORDS
          "person.country" => <<~WORDS,
            nation, country/region
            Land, Staat
            pays
            país
            paese, nazione, stato
            land
            país
            kraj, państwo
          WORDS
          "person.birthday" => <<~WORDS,
            birth date, date of birth, dob, born, birthdate
            Geburtstag, Geburtsdatum, geboren, geboren am
            date de naissance, anniversaire, né le, naissance
            fecha de nacimiento, cumpleaños, nacimiento
            data di nascita, compleanno
            geboortedatum, verjaardag
            data de nascimento, aniversário
            data urodzenia, urodziny
          WORDS
          "person.tags" => <<~WORDS,
            tags, labels, keywords, categories, groups, label, category
            Schlagwörter, Schlagworte, Kategorien, Kategorie, Gruppen, Stichwörter
            étiquettes, catégories, catégorie, mots-clés, groupes
            etiquetas, categorías, categoría, grupos
            etichette, categorie, categoria, gruppi
            labels, categorieën, categorie, groepen
            etiquetas, categorias, categoria
            etykiety, kategorie, kategoria, tagi
          WORDS
          "person.lists" => <<~WORDS,
            lists, mailing list, list name
            Listen, Verteiler, Liste
            listes, liste de diffusion
            listas, lista
            liste, lista
            lijsten, lijst
            listas
            listy, lista
          WORDS
          "person.owner" => <<~WORDS,
            owner, looked after by, salesperson, account manager, assigned to, responsible
            Betreuer, zuständig, Verantwortlicher, Bearbeiter, Betreuerin
            responsable, commercial, suivi par
            responsable, comercial, asignado a
            responsabile, commerciale, assegnato a
            verantwoordelijke, accountmanager, toegewezen aan
            responsável, vendedor
            opiekun, odpowiedzialny
          WORDS
          "person.known_as" => <<~WORDS,
            nickname, preferred name, called
            Spitzname, genannt
            surnom
            apodo
            soprannome
            bijnaam
            alcunha
            pseudonim
          WORDS
          "person.consent" => <<~WORDS,
            opt in, opt-in, optin, permission, newsletter consent, gdpr
            Einwilligung, Zustimmung, Newsletter
            consentement, accord
            consentimiento
            consenso
            toestemming
            consentimento
            zgoda
          WORDS
          "person.standing" => <<~WORDS,
            type, status, contact type, kind, relationship
            Kontaktart, Kundenstatus
            statut, type de contact
            estado, tipo de contacto
            stato cliente, tipo di contatto
            soort contact
            tipo de contato
            rodzaj kontaktu
          WORDS
          "person.language" => <<~WORDS,
            lang, locale
            Sprache
            langue
            idioma
            lingua
            taal
            língua, idioma
            język
          WORDS
          "person.note" => <<~WORDS,
            note, notes, comment, comments, remarks, remark
            Notiz, Notizen, Bemerkung, Bemerkungen, Kommentar, Anmerkung, Anmerkungen
            remarque, remarques, commentaire, commentaires
            nota, notas, comentario, comentarios, observaciones
            note, commento, commenti, osservazioni
            opmerking, opmerkingen, notitie, notities
            observação, observações, comentários
            uwagi, notatka, notatki, komentarz
          WORDS
          "company.website" => <<~WORDS,
            website, web, url, homepage, web site, Webseite, Internetseite, site web, página web, sito web, site, strona www
          WORDS
          "company.type" => <<~WORDS,
            industry, sector, business type, company type, Branche, secteur, sector, settore, branche, setor, branża
          WORDS
          "company.phone" => <<~WORDS
            company phone, Firmentelefon, Telefon Firma, standard, centralino, centralita
          WORDS
        }.freeze

        class << self
          # @param text [String] "* E-mail:", "e_mail" and "E-Mail" are one name
          # @return [String, nil]
          def bare(text) = Fold.call(text.to_s.tr("_", " "))&.gsub(/[^\p{L}\p{N} ]+/, " ")&.squeeze(" ")&.strip

          # @return [Hash{String=>String}] target by bare name; of two targets with one name the first keeps it
          def all
            @all ||=
              NAMES
                .flat_map { |key, words| words.split(/[,\n]/).filter_map { |word| (name = bare(word)) && !name.empty? && [name, key] } }
                .reverse
                .to_h
                .freeze
          end

          # @param text [String]
          def known?(text)
            name = bare(text) or return false
            all.key?(name) || own.include?(name)
          end

          private

          def own = @own ||= Fields::Standard.catalogue.for(:import).flat_map { |field| [bare(field.label), bare(field.name)] }.to_set
        end
      end
    end
  end
end
