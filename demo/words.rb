# frozen_string_literal: true

module NimbleLetter
  module Demo
    # Names for the people and houses around the demo firm. All invented.
    module Words
      FIRST = %w[
        Bram
        Sunniva
        Teodor
        Wen
        Iola
        Marek
        Junia
        Osei
        Calla
        Ruben
        Linnea
        Hal
        Edda
        Piers
        Ottoline
        Amara
        Kit
        Saoirse
        Dov
        Mireille
        Anselm
        Tamsin
        Ivo
        Noor
        Perran
        Greta
        Lorcan
        Yusra
        Cosima
        Baptiste
        Hetty
        Emeka
        Signe
        Rafe
        Petronella
        Joss
        Ayo
        Clemence
        Dilys
        Fenn
        Maud
        Caspian
        Ines
        Torben
        Wilhelmina
        Sorcha
        Enzo
        Priya
        Lucan
        Thandi
        Barnaby
        Odette
        Magnus
        Zelda
        Orla
        Nils
        Beatrix
        Kofi
        Aurelia
        Tobin
      ].freeze
      LAST = %w[
        Oduya
        Reyes
        Lark
        Achterberg
        Fenwright
        Sablewski
        Castellane
        Brandvold
        Whitmarsh
        Ostrava
        Okafor
        Brightwater
        Moraine
        Vantongeren
        Pellworm
        Ashgrove
        Quillfeather
        Dunmore
        Silverlock
        Hartigan
        Weatherstone
        Marchbanks
        Olofsen
        Trelawne
        Bexcombe
        Nakarado
        Fairbourne
        Stroud-Vane
        Kestrelman
        Ombersley
        Tarrington
        Wolfsbane
        Greengage
        Larkhill
        Penhalion
        Oxborrow
        Redfern-Shaw
        Thistlewood
        Umberleigh
        Varnholm
        Wychling
        Yarrowby
        Abernant
        Birchover
        Coldstrand
        Dovewater
        Elmsworthy
        Farrowmere
        Gildersome
        Hollinrake
        Islayne
        Jessamy
        Kirkhaven
        Loxdale
        Merriwick
        Nettlefold
      ].freeze
      # Names whose order and script differ; the family name stands in last_name.
      ELSEWHERE = [
        %w[雅 林],
        %w[Ольга Ветрова],
        %w[Έλλη Θαλάσση],
        %w[さくら 水野],
        %w[Zoë Måneløkke],
        %w[Łucja Żurawska],
        %w[Ảnh Đoàn],
        %w[नीरा वसंत]
      ].freeze
      CITIES = %w[York Leeds Hull Sheffield Harrogate Whitby Ripon Beverley Scarborough Durham].freeze

      COMPANIES = {
        "restaurant" => {
          count: 70,
          parts: [
            %w[
              Copper
              Saltgrass
              Noodle
              Dovecote
              Harbour
              Ember
              Tin-Roof
              Quayside
              Juniper
              Long-Spoon
              Milk-Street
              Pike
              Four-Ferns
              Cask
              Lemon
              Tallow
              Thyme
              Velvet-Hen
              Marrow
              Bay-Leaf
              Lantern
              Oyster-Shed
              Plum
              Brick-Oven
              Hearth
              Pepper
              Saffron
              Gooseberry
            ],
            %w[Ladle Kitchen Yard Table Plates Room Canteen Grill]
          ]
        },
        "school" => {
          count: 28,
          parts: [
            %w[Alder-Hill Brookfold Castle-Lane Dene Eastmoor Fosse Greystones Highfield Ings],
            ["Primary School", "Academy", "Sixth Form", "School"]
          ]
        },
        "studio" => {
          count: 18,
          parts: [%w[Halftone Blue-Reel Foxglove Low-Ceiling Nightjar Pinewood-Lane Valve], %w[Studio Recording Sound]]
        },
        "office" => {
          count: 22,
          parts: [
            %w[Merchant-Quay Northgate Paragon-Mill Riverside Wool-Exchange Stonebow],
            ["Offices", "House", "Works", "Yard Partners"]
          ]
        },
        "architect" => {
          count: 14,
          parts: [["Hale & Orme", "Studio Varnish", "Birch Fold", "Plain Sight", "Corner Light"], %w[Architects Architecture Associates]]
        }
      }.freeze
      JOBS = {
        "restaurant" => ["Owner", "Manager", "Head chef"],
        "school" => ["Head teacher", "Bursar", "Site manager"],
        "studio" => %w[Engineer Owner],
        "office" => ["Office manager", "Facilities lead"],
        "architect" => %w[Architect Partner]
      }.freeze
      CONSENTS = ["the web form", "card at the trade evening", "asked on the phone", "signed order", nil].freeze
      REGIONS = {
        "York" => "North Yorkshire",
        "Leeds" => "West Yorkshire",
        "Hull" => "East Riding",
        "Sheffield" => "South Yorkshire",
        "Harrogate" => "North Yorkshire",
        "Whitby" => "North Yorkshire",
        "Ripon" => "North Yorkshire",
        "Beverley" => "East Riding",
        "Scarborough" => "North Yorkshire",
        "Durham" => "County Durham"
      }.freeze
      TAGS = ["trade evening", "web form", "rebuild planned", "referred", "press", "quiet hours pledge"].freeze
    end
  end
end
