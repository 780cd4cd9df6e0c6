# frozen_string_literal: true

module Vestry
  module Web
    # The pages that are found by their names, or by what one does on them: methods, practice points, parts of the
    # rulebook, settings, pages of the stations and one's own account.
    class FindPlaces
      # @!attribute kind [String] what it is
      # @!attribute path [Array(String, String)] station and path; of no station for what is no orchard's
      # @!attribute words [String] by which it is found besides its title
      FoundPage = Struct.new(:kind, :title, :path, :words, keyword_init: true)

      SETTINGS = { "name" => "Name of the orchard", "latitude" => "Latitude and longitude",
                   "altitude" => "Height above the sea",
                   "declination" => "Declination of the compass", "time_zone" => "Time zone",
                   "grazing" => "What grazes below, browse line", "wind_from" => "Wind comes from",
                   "reach" => "Your reach from the ladder", "units" => "Measures, inches or millimetres",
                   "school" => "School" }.freeze
      # Station and path, title, and other words for what is there.
      PAGES = [
        ["people", "", "People and roles", "invite invitation member steward grafter viewer leave"],
        ["files", "", "Files, in and out", "import export backup download table csv zip pack"],
        ["history", "", "What was changed", "undo restore bring back log"],
        ["varieties", "", "Varieties", "register cultivar bloom"],
        ["settings", "", "Settings of this orchard", ""],
        ["rulebook", "", "The rulebook", "rules figures overrule"],
        ["today", "", "Today", "what matters now"],
        ["survey", "", "Survey", "map trees limbs measure girth"],
        ["plan", "", "Plan", "convert decide roles"],
        ["plan", "/cuts", "What is to be sawn", "cut saw long winter"],
        ["wood", "", "Wood", "bundles sticks scions stores thermometer"],
        ["wood", "/match", "Match sticks to stubs", "held kept"],
        ["wood", "/list", "Cutting list to carry", "shoots"],
        ["wood", "/nursery", "Order from elsewhere", "nursery promise"],
        ["wood", "/dip", "Mix a dip", "bleach clean"],
        ["wood", "/labels", "Labels for bundles", "print"],
        ["slip", "", "Slip", "spring bark opens closes frost"],
        ["slip", "/walk", "Test the bark", "slipping"],
        ["slip", "/crew", "The crew's days", "hours people"],
        ["slip", "/weather", "Weather", "forecast rain gusts"],
        ["graft", "", "Graft", "log stub"],
        ["graft", "/sheet", "The day's sheet", "carry materials tape"],
        ["tend", "", "Tend: what is due", "agenda tasks late visit aftercare"],
        ["tend", "/stops", "Walk what is due", ""],
        ["tend", "/nurses", "Nurse limbs", "take off"],
        ["tend", "/calendar", "In your calendar", "letter mail ical"],
        ["tally", "", "Tally", "count autumn crop growth"],
        ["tally", "/took", "What took", "success failed lost dead rate"],
        ["tally", "/learned", "What was learned", "own figures"],
        ["repair", "", "Stripped trunks", "wound bridge repair sheep rabbit mice bark eaten"],
        ["practice", "", "Practice", "exercise bench learn"],
        [nil, "/scan", "Scan a label", "code camera"],
        [nil, "/you", "Your sign-in", "account password sign in out second step key token program device"]
      ].freeze
      SHORTEST = 3

      # @param words [String] as they were typed
      # @return [Array<FoundPage>] whose titles hold these words
      def self.of(words)
        asked = words.to_s.downcase.strip
        return [] if asked.size < SHORTEST

        all.select { |place| place.title.downcase.include?(asked) || place.words.to_s.split.include?(asked) ||
          place.words == asked }
      end

      def self.all
        @all ||= begin
          book = Core::Rulebook.shipped
          [*book.method_names.map { |name| place("method", book.book("methods")[name]["name"], "rulebook",
                                                 "/methods#m-#{name}") },
           *book.book("schools")["points"].map { |name, point| place("practice", point["name"], "rulebook",
                                                                     "/entry/practice.#{name}") },
           *Admin::RulebookPages::PAGES.map { |page, title| place("rulebook", title, "rulebook", "/#{page}") },
           *SETTINGS.map { |name, title| place("setting", title, "settings", "#f-#{name}") },
           *PAGES.map { |station, path, title, words| place("page", title, station, path, words) }].freeze
        end
      end

      def self.place(kind, title, station, path, words = nil)
        FoundPage.new(kind: kind, title: title, path: [station, path], words: words)
      end
      private_class_method :place
    end
  end
end
