# frozen_string_literal: true

module Vestry
  module Records
    # The wood in store: which bundles there are, how each has aged, and when to look at it again.
    class WoodStore
      StoredBundle = Struct.new(:bundle, :left, :age, :measured_from, :advice, :check_due, keyword_init: true)

      # So many bundles of a season are looked at.
      MOST = 2000

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      def stores = @stores ||= Store.in_sight.where(orchard_id: @orchard.id).order(:name).all

      # Where a bundle lies now; nil where nobody said.
      def store_of(bundle)
        id = stays_of(bundle).last&.fetch(:store_id)
        id && stores.find { |each| each.id == id }
      end

      # Bundles of a season with sticks left, oldest first.
      def bundles(season: @orchard.season_to_plan(@today), empty: false)
        all, filled = (@bundles ||= {})[season] ||= read(season)
        empty ? all : filled
      end

      # Those that may be cut up for stubs: shoots kept whole for a bridge are left out.
      def for_stubs(season:) = bundles(season: season).reject(&:whole_shoots)

      # Some sticks that are here and may be cut up for stubs, without reading all the others.
      #
      # @param ids [Array<Integer>]
      def sticks(ids, season:)
        Stick.here.where(id: ids, bundle_id: cut_for(season).exclude(:whole_shoots).select(:id))
          .eager(bundle: :variety).all
      end

      # The days on which bundles with sticks left fall due to be looked at, without reading them.
      def checks_due
        season = @orchard.season.name_of(@today)
        last = DB[:bundle_checks].where(Sequel[:bundle_checks][:bundle_id] => Sequel[:bundles][:id])
          .where(Sequel[:seen_on] <= @today).select { max(:seen_on) }
        cut_for(season).where(Stick.here.where(Sequel[:sticks][:bundle_id] => Sequel[:bundles][:id]).select(1).exists)
          .select(Sequel.function(:coalesce, last, :cut_on).as(:looked_on)).distinct
          .map { |row| row[:looked_on] + check_days }
      end

      # @return [Array<StoredBundle>]
      def kept(**which) = (@kept ||= {})[which] ||= bundles(**which).map { |bundle| keep(bundle) }

      def keep(bundle)
        from, aged = age(bundle)
        StoredBundle.new(bundle: bundle, left: bundle.left, age: aged, measured_from: from,
                         advice: advice(bundle, aged),
                 check_due: check_due(bundle))
      end

      # Since when a bundle was measured, and how it has aged; nils where it was not. Those that lay together have
      # aged alike.
      #
      # @return [Array(Time, Hash)]
      def aged(bundle)
        stays = stays_of(bundle).map { |stay| stay.values_at(:store_id, :since) }
        return [nil, nil] if stays.empty?

        life = @orchard.rulebook.value_or_nil("species.#{bundle.variety.species}.wood_life")
        (@aged ||= {})[[stays, life]] ||= begin
          readings = readings_of(bundle)
          [readings.first&.fetch(:at), readings.size > 1 ? aged_by(readings, life) : nil]
        end
      end

      # How wood has aged until today that lay where these readings were taken.
      #
      # @param life_days [Float, nil] of such wood at 1 °C; the rulebook's where it is not known
      def aged_by(readings, life_days = nil)
        Core::Wood::Storage.call(readings: readings, life_days: life_days, ends_at: @today.to_time,
                                 rulebook: @orchard.rulebook)
      end

      # Every bundle of the present season: what is stored, worked out.
      def aged_all
        bundles(season: @orchard.season.name_of(@today), empty: true).to_h { |bundle| [bundle.id, aged(bundle)] }
      end

      # The first day of the working year in which a season's wood is cut.
      def season_start(season) = @orchard.season.span(season).begin

      private

      # All of a season, and those with sticks left.
      def read(season)
        all = cut_for(season).order(:cut_on, :id).eager(:variety, :tree, :checks, :sticks).limit(MOST).all
        [all, all.select { |bundle| bundle.left.positive? }]
      end

      def cut_for(season)
        from = season_start(season)
        Bundle.in_sight.where(orchard_id: @orchard.id, cut_on: from...(from >> 12)).where(Sequel[:cut_on] <= @today)
      end

      def age(bundle) = ages[bundle.id] || aged(bundle)

      # How everything in store has aged.
      def ages
        @ages ||= Derived.fetch(@orchard, "wood", @today, from: AGED_FROM) do |orchard|
          WoodStore.new(orchard, @today).aged_all
        end
      end
      AGED_FROM = %w[varieties bundles bundle_stays stores store_readings].freeze
      private_constant :AGED_FROM

      # What the thermometers said where it lay, while it lay there.
      def readings_of(bundle)
        stays = stays_of(bundle)
        stays.each_with_index.flat_map do |stay, i|
          until_time = stays[i + 1]&.fetch(:since) || (@today + 1).to_time
          readings = log(stay[:store_id])
          first, after = [stay[:since], until_time].map do |time|
            readings.bsearch_index { |reading| reading[:at] >= time } || readings.size
          end
          readings[first...after]
        end
      end

      def stays_of(bundle)
        @stays ||= DB[:bundle_stays].where(orchard_id: @orchard.id).order(:since).all.group_by do |each|
          each[:bundle_id]
        end
        @stays.fetch(bundle.id, [])
      end

      def log(store_id)
        @logs ||= {}
        @logs[store_id] ||= stores.find { |each| each.id == store_id }&.readings(@today) || []
      end

      # What to do about it, worst first: codes with figures.
      def advice(bundle, age)
        checks = bundle.checks_by(@today)
        found = checks.reject { |check| check.found == Bundle::TESTED }.last
        told = found && found.found != "sound" ? [{ code: "wood_#{found.found}", on: found.seen_on }] : []
        told.concat(Core::Wood::Viability.of(checks.map(&:as_test), rulebook: @orchard.rulebook))
        told.concat(age ? age[:reasons] : [{ code: "wood_unmeasured" }])
        told
      end

      # Monthly, from the day it was cut or last looked at.
      def check_due(bundle)
        last = bundle.checks_by(@today).map(&:seen_on).max || bundle.cut_on
        last + check_days
      end

      def check_days = @orchard.rulebook.value("reckoning.wood.check_days")
    end
  end
end
