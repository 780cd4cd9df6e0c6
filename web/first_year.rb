# frozen_string_literal: true

module Vestry
  module Web
    # The year of an orchard that is about to be begun: when the bark of each kind slips at its latitude and height.
    class FirstYear
      # @param reading [Contracts::FormResult] of an orchard's settings
      # @return [FirstYear, nil] nil while the place cannot be read
      def self.of(reading, today)
        return nil if reading.wrong(:latitude) || !reading.values[:latitude]

        new(reading.values[:latitude], reading.wrong(:altitude) ? nil : reading.values[:altitude], today)
      end

      # @param book [Core::Rulebook] the orchard's own, where there is one already
      def initialize(latitude, altitude, today, book: Core::Rulebook.shipped)
        @latitude = latitude
        @altitude = altitude || 0.0
        @today = today
        @season = Core::Season.new(southern: latitude.negative?)
        @book = book
      end

      def drawing
        Drawings::BarkYear.both(spans.map { |species, from, to| [kind(species), from, to] }, @season)
      end

      # When the work is, from the first kind's bark to the last one's; of kinds that keep their leaves it may slip for
      # most of the year, or never.
      #
      # @param units [String] in which the height is said
      def words(units: "metric")
        asleep = spans.reject { |species, *| @book.evergreen?(species) }
        from, to = asleep.map { |each| each[1] }.min, asleep.map(&:last).max
        high = Core::Measure.say_metres(@altitude, units)
        "At #{@latitude.abs.round}° #{@latitude.negative? ? 'south' : 'north'}, #{high} above the sea, " \
          "bark slips between #{from.strftime('%-d %B')} and #{to.strftime('%-d %B')}, by kind.#{without_winters}"
      end

      # Where no winter sets the year, its calendar says little; empty where one does.
      def without_winters
        least = @book.value("site.winters_from")
        return "" if @latitude.abs >= least

        " Nearer the equator than #{least}° no winter sets the year: these dates say little. Go by what a test cut " \
          "says, and by the rains."
      end

      private

      def spans
        @spans ||= @book.species_names.map do |species|
          [species, *Core::Slip::UsualDays.slipping(species, @today, @season, latitude_deg: @latitude,
                                                    altitude_m: @altitude, rulebook: @book)]
        end.sort_by { |each| each[1] }
      end

      def kind(species) = @book.book("species").dig("names", species, "name") || species
    end
  end
end
