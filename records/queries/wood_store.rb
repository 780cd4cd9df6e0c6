# frozen_string_literal: true

module Vestry
  module Records
    # The wood in store: which bundles there are, how each has aged, and when to look at it again.
    class WoodStore
      StoredBundle = Struct.new(:bundle, :left, :age, :measured_from, :advice, :check_due, :over, keyword_init: true) do
        # Whether nothing is left of its life, as its store's thermometer tells, or by its age alone.
        def spent? = advised?("storage_spent") || advised?("wood_outlived")
        # Whether it is taken as dead.
        def dead? = advised?("wood_forced_none") || advised?("wood_withered")
        # Whether a graft may still be made of it; of what is spent every stick is tested.
        def lasts? = !over && !dead?
        # Whether it is to be looked at by a day.
        def due?(day) = lasts? && check_due <= day

        private def advised?(code) = advice.any? { |each| each[:code] == code }
      end

      # So many bundles of a season are looked at.
      MOST = 2000
      # So many that were left over are told.
      LEFT_OVER = 24

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
      def bundles(season: @orchard.season_of_wood(@today), empty: false)
        all, filled = (@bundles ||= {})[season] ||= read(season)
        empty ? all : filled
      end

      # Those that may be cut up for stubs: shoots kept whole for a bridge are left out, and what is taken as dead.
      def for_stubs(season:) = alive(season: season).reject(&:whole_shoots)
      def shoots(season:) = alive(season: season).select(&:whole_shoots)

      # Those that are not taken as dead.
      def alive(season:) = bundles(season: season).reject { |bundle| bundle.dead?(@today) }

      # Some sticks that are here and may be cut up for stubs, without reading all the others.
      #
      # @param ids [Array<Integer>]
      def sticks(ids, season:)
        Stick.here.where(id: ids, bundle_id: cut_for(season).exclude(:whole_shoots).select(:id))
          .eager(bundle: %i[variety checks]).all
          .each { |stick| stick.bundle.associations[:orchard] = @orchard }.reject { |stick| stick.bundle.dead?(@today) }
      end

      # The days on which bundles with sticks left fall due to be looked at, without reading them.
      def checks_due
        found = last_check(:found) { |checks| checks.exclude(found: Bundle::TESTED) }
        with_sticks(still_wanted).exclude(taken_as_dead)
          .select(Sequel.function(:coalesce, last_check(:seen_on), :cut_on).as(:looked_on), found.as(:found)).distinct
          .map { |row| row[:looked_on] + days_on(row[:found]) }.uniq
      end

      # Bundles of this season that a graft may still be made of.
      def still_wanted
        cut_for(@orchard.season.name_of(@today)).exclude(over)
      end

      # @return [Array<StoredBundle>]
      def kept(**which) = (@kept ||= {})[which] ||= bundles(**which).map { |bundle| keep(bundle) }

      # What lies in store for a season, and of the present one's what is wanted yet.
      #
      # @return [Array<StoredBundle>]
      def still_kept(season)
        [@orchard.season.name_of(@today), season].uniq.flat_map { |each| kept(season: each) }.reject(&:over)
      end

      def keep(bundle)
        from, aged = age(bundle)
        StoredBundle.new(bundle: bundle, left: bundle.left, age: aged, measured_from: from,
                         advice: advice(bundle, aged), check_due: check_due(bundle),
                         over: over?(bundle))
      end

      # The day by which the best bundle of each variety is spent, at the pace of its latest days.
      #
      # @return [Hash{Integer=>Date}] by the variety's id
      def ends_on(season:)
        (@ends_on ||= {})[season] ||= kept(season: season).reject(&:dead?)
          .group_by { |each| each.bundle.variety_id }.transform_values { |all| all.map { |each| spent_on(each) }.max }
      end

      # Varieties of which all that is in store is spent, and since when.
      #
      # @return [Hash{Variety=>Date}]
      def spent(varieties, season:)
        varieties.to_h { |variety| [variety, ends_on(season: season)[variety.id]] }
          .select { |_, ends_on| ends_on && ends_on < @today }
      end

      # From which day on wood of a kind was cut that is still grafted with: that of this season until bark of the kind
      # lifts no more, and then what was cut since, as a bud's.
      def wanted_from(species)
        (@wanted_from ||= {})[species] ||= begin
          last = last_day(species)
          last && @today > last ? [this_season, last + 1].max : this_season
        end
      end

      def this_season = @this_season ||= season_start(@orchard.season.name_of(@today))

      # The varieties whose older wood is wanted all the same: of stubs that can be set yet, and of what can be made
      # again yet where it dies.
      def still_to_set = @still_to_set ||= @orchard.last_days(@today).varieties_in_time

      def over?(bundle)
        bundle.cut_on < this_season ||
          (bundle.cut_on < wanted_from(bundle.variety.species) && !still_to_set.include?(bundle.variety_id))
      end

      # Bundles with sticks that were left over, the latest first.
      #
      # @return [Array<Bundle>]
      def left_over
        with_sticks(Bundle.in_sight.where(orchard_id: @orchard.id)).where(over)
          .order(Sequel.desc(:cut_on), Sequel.desc(:id)).limit(LEFT_OVER).eager(:variety, :sticks).all
      end

      # Stores in which no stick lies.
      #
      # @return [Array<Store>]
      def empty_stores
        there = with_sticks(Bundle.in_sight.where(orchard_id: @orchard.id)).select(:id)
        filled = DB[:bundle_stays].where(orchard_id: @orchard.id, bundle_id: there).distinct(:bundle_id)
          .order(:bundle_id, Sequel.desc(:since)).from_self.select_map(:store_id)
        stores.reject { |store| filled.include?(store.id) }
      end

      # Since when a bundle was measured, and how it has aged; nils where it was not. Those that lay together have
      # aged alike.
      #
      # @return [Array(Time, Hash)]
      def aged(bundle)
        stays = stays_of(bundle).map { |stay| stay.values_at(:store_id, :since) }
        return [nil, nil] if stays.empty?

        life = life_of(bundle.variety.species)
        (@aged ||= {})[[stays, life, bundle.cut_on]] ||= begin
          readings = readings_of(bundle)
          cut_at = Outside::Clock.start_of(@orchard.time_zone, bundle.cut_on)
          [readings.first&.fetch(:at), readings.size > 1 ? aged_by(readings, life, cut_at) : nil]
        end
      end

      # How wood has aged until today that lay where these readings were taken.
      #
      # @param life_days [Float, nil] of such wood at 1 °C; the rulebook's where it is not known
      # @param cut_at [Time, nil] since when it ages; with the first reading where that is not said
      def aged_by(readings, life_days = nil, cut_at = nil)
        Core::Wood::Storage.call(readings: readings, life_days: life_days, starts_at: cut_at, ends_at: @today.to_time,
                                 rulebook: @orchard.rulebook)
      end

      # Every bundle of the present season: what is stored, worked out.
      def aged_all
        bundles(season: @orchard.season.name_of(@today), empty: true).to_h { |bundle| [bundle.id, aged(bundle)] }
      end

      # The first day of the working year in which a season's wood is cut.
      def season_start(season) = @orchard.season.span(season).begin

      private

      # Of what no thermometer tells, as if it had lain just above freezing.
      def spent_on(kept)
        bundle = kept.bundle
        return Core::Wood::Spent.unmeasured_on(bundle.variety.species, bundle.cut_on, @orchard.rulebook) unless kept.age

        Core::Wood::Spent.on(kept.age[:life_left_share], bundle.cut_on, @today, @orchard.rulebook)
      end

      def with_sticks(bundles)
        bundles.where(Stick.here.where(Sequel[:sticks][:bundle_id] => Sequel[:bundles][:id]).select(1).exists)
      end

      # All of a season, and those with sticks left.
      def read(season)
        all = cut_for(season).order(:cut_on, :id).eager(:variety, :tree, :checks, :sticks).limit(MOST).all
        all.each { |bundle| bundle.associations[:orchard] = @orchard }
        [all, all.select { |bundle| bundle.left.positive? }]
      end

      # The same of bundles in the database.
      def over
        kinds = Variety.where(orchard_id: @orchard.id).select_map(%i[species id]).group_by(&:first)
          .select { |species, _| wanted_from(species) > this_season }
        Sequel.|(Sequel[:cut_on] < this_season, *kinds.map do |species, all|
          Sequel.&({ variety_id: all.map(&:last) - still_to_set }, Sequel[:cut_on] < wanted_from(species))
        end)
      end

      # The last on which another graft of a kind makes sense; where it does not stand here, that of the last kind here.
      def last_day(species)
        stands = (@orchard.species & Core::Rulebook.shipped.species_names).include?(species)
        stands ? @orchard.last_days(@today).of_kind(species) : @orchard.bark_forecast(@today).closes_last
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
        found = bundle.last_look(@today)
        told = found && found.found != "sound" ? [{ code: "wood_#{found.found}", on: found.seen_on }] : []
        tests = Core::Wood::Viability.of(bundle.checks_by(@today).map(&:as_test), rulebook: @orchard.rulebook)
        # That it is dead comes before how it looked.
        told = bundle.dead?(@today) ? withered(bundle) + tests + told : told + tests
        told + (age ? age[:reasons] : unmeasured(bundle))
      end

      # Of what no thermometer tells, it is said how long it keeps at best; leafy wood has its own word.
      def unmeasured(bundle)
        species = bundle.variety.species
        last = Core::Wood::Spent.keeps_until(species, bundle.cut_on, @orchard.rulebook)
        return [] if bundle.withered?(@today)
        return [{ code: "wood_unmeasured", until: last }] if @today <= last

        [{ code: "wood_outlived", days: (last - bundle.cut_on).to_i, kept: (@today - bundle.cut_on).to_i }]
      end

      def withered(bundle)
        return [] unless bundle.withered?(@today)

        [{ code: "wood_withered", days: life_of(bundle.variety.species), kept: (@today - bundle.cut_on).to_i }]
      end

      def life_of(species) = @orchard.rulebook.value_or_nil("species.#{species}.wood_life")

      # Of a dataset of bundles those of which Bundle#dead? says so.
      def taken_as_dead
        moved = last_check(:forced_moved) { |checks| checks.exclude(forced: nil) }
        Sequel.|({ Sequel.function(:coalesce, moved, 1) => 0 }, kept_too_long)
      end

      # Leafy wood that was kept beyond its life.
      def kept_too_long
        kinds = Core::Rulebook.shipped.species_names.select { |species| @orchard.rulebook.evergreen?(species) }
        kinds.map do |species|
          { variety_id: Variety.where(orchard_id: @orchard.id, species: species).select(:id) }
            .then { |of_kind| Sequel.&(of_kind, Sequel[:cut_on] < @today - life_of(species).floor) }
        end.reduce(:|)
      end

      # Monthly, from the day it was cut or last looked at; sooner where something was found wrong.
      def check_due(bundle)
        looked = bundle.last_look(@today)
        last = bundle.checks_by(@today).map(&:seen_on).max || bundle.cut_on
        last + days_on(looked&.found)
      end

      def days_on(found)
        @orchard.rulebook.value("reckoning.wood.#{[nil, 'sound'].include?(found) ? 'check_days' : 'check_days_wrong'}")
      end

      # Something of the last check of a bundle, of those that are asked about.
      def last_check(column)
        checks = DB[:bundle_checks].where(Sequel[:bundle_checks][:bundle_id] => Sequel[:bundles][:id])
          .where(Sequel[:seen_on] <= @today)
        checks = yield checks if block_given?
        checks.order(Sequel.desc(:seen_on), Sequel.desc(Sequel[:bundle_checks][:id])).limit(1).select(column)
      end
    end
  end
end
