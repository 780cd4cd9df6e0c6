# frozen_string_literal: true

module Vestry
  module Records
    # The wood in store: which bundles there are, how each has aged, and when to look at it again.
    class Cellar
      Kept = Struct.new(:bundle, :left, :age, :measured_from, :advice, :check_due, keyword_init: true)

      # So many bundles of a season are looked at.
      MOST = 2000
      BUNDLES = Records::Kept.new(8)
      AGES = Records::Kept.new(64)

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      def stores = @stores ||= Store.in_sight.where(orchard_id: @orchard.id).order(:name).all

      # Bundles of a season with sticks left, oldest first.
      def bundles(season: @orchard.season_to_plan(@today), empty: false)
        all, filled = (@bundles ||= {})[season] ||= read(season)
        empty ? all : filled
      end

      # Those that may be cut up for stubs: shoots kept whole for a bridge are left out.
      def for_stubs(season:) = bundles(season: season).reject(&:whole_shoots)

      # The days on which bundles with sticks left fall due to be looked at, without reading them.
      def checks_due
        season = @orchard.season.name_of(@today)
        looks = Worded.ask(:checks_due, @orchard.cache_key, @today, season) do
          last = DB[:bundle_checks].where(Sequel[:bundle_checks][:bundle_id] => Sequel[:bundles][:id])
            .where(Sequel[:seen_on] <= @today).select do
            max(:seen_on)
          end
          cut_for(season).where(Stick.here.where(Sequel[:sticks][:bundle_id] => Sequel[:bundles][:id]).select(1).exists)
            .select(Sequel.function(:coalesce, last, :cut_on).as(:looked_on)).distinct
        end
        looks.map { |row| row[:looked_on] + check_days }
      end

      # @return [Array<Kept>]
      def kept(**which) = (@kept ||= {})[which] ||= bundles(**which).map { |bundle| keep(bundle) }

      def keep(bundle)
        from, aged = age(bundle)
        Kept.new(bundle: bundle, left: bundle.left, age: aged, measured_from: from, advice: advice(bundle, aged),
                 check_due: check_due(bundle))
      end

      # What the wood of a season is known by, and with how it has aged.
      def rows_mark(season)
        (@rows_marks ||= {})[season] ||= Mark.of(:wood, @orchard.cache_key, @today, season_start(season)) do
          cut = cut_for(season)
          of_bundles = ->(table) { DB[table].where(bundle_id: cut.select(:id)) }
          { cut => %i[bundles], of_bundles[:sticks] => %i[sticks], of_bundles[:bundle_checks] => %i[bundle_checks],
            of_bundles[:bundle_stays] => %i[bundle_stays],
            DB[:varieties].where(orchard_id: @orchard.id) => %i[varieties],
            DB[:trees].where(id: cut.select(:tree_id)) => %i[trees] }
        end
      end

      def mark(season) = (@marks ||= {})[season] ||= [rows_mark(season), readings_mark(season_start(season))].join("|")

      # The first day of the working year in which a season's wood is cut.
      def season_start(season) = @orchard.season.span(season).begin

      private

      # All of a season, and those with sticks left.
      def read(season)
        BUNDLES.fetch([@orchard.cache_key, season, @today, rows_mark(season)]) do
          all = Still.all(cut_for(season).order(:cut_on, :id).eager(:variety, :tree, :checks, :sticks).limit(MOST).all)
          [all, all.select { |bundle| bundle.left.positive? }.freeze].freeze
        end
      end

      def cut_for(season)
        from = season_start(season)
        Bundle.in_sight.where(orchard_id: @orchard.id, cut_on: from...(from >> 12)).where(Sequel[:cut_on] <= @today)
      end

      def readings_mark(from)
        (@readings_marks ||= {})[from] ||= Mark.of(:store_readings, @orchard.cache_key, @today, from) do
          { readings_since(from) => %i[store_readings], DB[:stores].where(orchard_id: @orchard.id) => %i[stores] }
        end
      end
      def readings_since(from)
        DB[:store_readings].where(orchard_id: @orchard.id).where(Sequel[:at] >= (from - 1).to_time)
          .where(Sequel[:at] < (@today + 1).to_time)
      end

      # Bundles that lay together have aged alike.
      def age(bundle)
        stays = stays_of(bundle).map { |stay| stay.values_at(:store_id, :since) }
        return [nil, nil] if stays.empty?

        (@ages ||= {})[stays] ||= AGES.fetch([@orchard.cache_key, @today, stays,
                                              readings_mark(@orchard.season.year_start(stays.first.last.to_date)),
                                              @orchard.rulebook.overrides]) do
          readings = readings_of(bundle)
          [readings.first&.fetch(:at), readings.size > 1 ?
           Core::Wood::Storage.call(readings: readings, rulebook: @orchard.rulebook) : nil].freeze
        end
      end

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
        found = bundle.checks.select { |check| check.seen_on <= @today }.last
        told = found && found.found != "sound" ? [{ code: "wood_#{found.found}", on: found.seen_on }] : []
        told.concat(age ? age[:reasons] : [{ code: "wood_unmeasured" }])
        told
      end

      # Monthly, from the day it was cut or last looked at.
      def check_due(bundle)
        last = bundle.checks.map(&:seen_on).select { |day| day <= @today }.max || bundle.cut_on
        last + check_days
      end

      def check_days = @orchard.rulebook.value("reckoning.wood.check_days")
    end
  end
end
