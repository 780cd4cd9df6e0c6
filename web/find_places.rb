# frozen_string_literal: true

module Vestry
  module Web
    # The pages that are found by their names: methods, practice points, parts of the rulebook, settings.
    class FindPlaces
      # @!attribute kind [String] what it is
      # @!attribute path [Array(String, String)] station and path
      FoundPage = Struct.new(:kind, :title, :path, keyword_init: true)

      SETTINGS = { "name" => "Name of the orchard", "latitude" => "Latitude and longitude",
                   "altitude" => "Height above the sea",
                   "declination" => "Declination of the compass", "time_zone" => "Time zone",
                   "grazing" => "What grazes below, browse line", "wind_from" => "Wind comes from",
                   "reach" => "Your reach from the ladder", "units" => "Measures, inches or millimetres",
                   "school" => "School" }.freeze
      PAGES = { "people" => "People and roles", "files" => "Files, in and out", "history" => "What was changed",
                "varieties" => "Varieties", "settings" => "Settings of this orchard" }.freeze
      SHORTEST = 3

      # @param words [String] as they were typed
      # @return [Array<FoundPage>] whose titles hold these words
      def self.of(words)
        asked = words.to_s.downcase.strip
        asked.size < SHORTEST ? [] : all.select { |place| place.title.downcase.include?(asked) }
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
           *PAGES.map { |station, title| place("page", title, station, "") }].freeze
        end
      end

      def self.place(kind, title, station, path) = FoundPage.new(kind: kind, title: title, path: [station, path])
      private_class_method :place
    end
  end
end
