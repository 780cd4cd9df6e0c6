# frozen_string_literal: true

require "tzinfo"

module Vestry
  module Records
    # An orchard, and the way to every row in it.
    class Orchard < Sequel::Model(DB[:orchards])
      include Row
      extend Known
      known(:school, otherwise: -> { Core::Rulebook.shipped.school_names.first }) do
        Core::Rulebook.shipped.school_names
      end
      LONGEST_NAME = 80
      GRAZING = %w[none sheep deer horses cattle].freeze

      def self.time_zones = @time_zones ||= TZInfo::Timezone.all_identifiers.to_set.freeze

      one_to_many :trees, order: %i[row number]
      one_to_many :varieties, order: :name
      one_to_many :grafts

      # The one at an address; nil where there is none, or it is out of sight.
      def self.called(slug) = in_sight.first(slug: slug.to_s[0, 200])

      # All that are in sight.
      def self.standing = in_sight.all

      # Those that the weather service is asked about.
      def self.with_weather = in_sight.where(Sequel.~(weather_place: nil) | Sequel.~(weather_url: nil)).all

      # Addresses that begin so and are taken.
      def self.slugs_like(plain) = where(Sequel.like(:slug, "#{plain}%")).select_map(:slug)

      # The orchard that a request or a job is about, as one object for all its rows.
      def self.current = Thread.current[:vestry_orchard]

      # @param reading [Boolean] nothing is written meanwhile: what was read once need not be read again
      def with_current(reading: false)
        before, was_reading = Orchard.current, @reading
        Thread.current[:vestry_orchard] = self
        @reading = reading
        # Before anything else: what is derived under them is never older than they are.
        revisions if reading
        yield
      ensure
        Thread.current[:vestry_orchard] = before
        @reading = was_reading
      end

      # Height in mm below which each animal eats what it reaches, by the rulebook's browse lines.
      def browse_mm = rulebook.value("site.browse.#{grazing}")

      # The rulebook with this orchard's own values, made anew when they change: what its seasons have taught, and over
      # that what its steward has said.
      def rulebook
        laid = learned.to_h.merge(overrides.to_h)
        return Core::Rulebook.shipped if laid.empty?

        @rulebook = nil unless @rulebook&.overrides == laid
        @rulebook ||= Core::Rulebook.shipped.overruled(laid)
      end

      # The rulebook with what its steward has said, and nothing that was learned.
      def rulebook_as_set = Core::Rulebook.shipped.overruled(overrides.to_h)

      # @param used [Hash{String=>Hash}] what was learned, by path of the rulebook
      # @return [Boolean] whether that is new
      def learned_anew(used)
        changed = Orchard.where(id: id).exclude(learned: Sequel.pg_jsonb(used))
          .update(learned: Sequel.pg_jsonb(used), version: Sequel[:version] + 1)
        refresh if changed.positive?
        changed.positive?
      end

      def reading? = @reading && Orchard.current.equal?(self)

      # What the weather service answered, or why it did not: nobody changed the orchard by it.
      def heard_weather(at: weather_answered_at, trouble: nil)
        Orchard.where(id: id).update(weather_answered_at: at, weather_trouble: trouble)
      end

      # How often each of its tables was written.
      def revisions = for_page(:revisions) { Revisions.of(self) }

      # Its weather and its spring as they are known on a day, each read once.
      def weather(today) = once(:weather, today) { SiteWeather.new(self, today) }
      def bark_forecast(today) = once(:bark_forecast, today) { BarkForecast.new(self, today) }

      # The last sensible days of its season for another graft and for a bud.
      def last_days(today) = once(:last_days, today) { LastDays.new(self, today) }

      # How long stubs take here.
      def own_pace = for_page(:own_pace) { OwnPace.new(self) }

      # Its wood and its stripped trunks as they are on a day.
      def wood_store(today) = for_page(:wood_store, today) { WoodStore.new(self, today) }
      def stripped_trunks(today) = for_page(:stripped_trunks, today) { StrippedTrunks.new(self, today) }

      # The stubs of the season that can still be planned, with the days on which each can be grafted.
      def stub_windows(today) = for_page(:stub_windows, today) { StubWindows.new(self, today) }

      # The wood that a season's plans want, beside what there is.
      def wood_supply(season, today) = for_page(:wood_supply, season, today) { WoodSupply.new(self, season, today) }

      # Planned limbs of a season.
      #
      # @param kind [Symbol] stubs, waiting or cuts
      # @param variety [Integer, nil] those alone that are to become it
      def planned(kind, season, variety: nil)
        for_page(:planned, kind, season, variety) { PlannedRows.new(self, kind, season, variety: variety) }
      end

      # Those of them that can still be set.
      def stubs_in_time(season, today, variety: nil)
        for_page(:stubs_in_time, season, today, variety) { StubsInTime.new(self, season, today, variety: variety) }
      end

      # Limbs whose grafts were lost, and of which nothing is decided since.
      def lost_undecided(today) = for_page(:lost_undecided, today) { PlanQueries.lost_undecided(self, today) }

      # What took here, by the day taken to be today.
      def own_callus(today) = once(:own_callus, today) { OwnCallus.new(self, today) }
      def success(today) = once(:success, today) { OwnSuccess.new(self, today) }

      def southern? = latitude.negative?
      # Degrees of latitude, and metres above the sea.
      def place = [latitude, altitude_m]

      # By how many hours the clock of its time zone goes before the sun at its place, or behind it; nil where that is
      # no more than clocks do.
      #
      # @param day [Date]
      # @return [Integer, nil]
      def clock_off(day)
        noon = Time.utc(day.year, day.month, day.day, 12)
        hours = TZInfo::Timezone.get(time_zone).period_for(noon).utc_total_offset / 3600.0
        off = (hours - longitude / 15 + 12) % 24 - 12
        off.abs.round if off.abs > rulebook.value("plausible.zone_hours")
      end

      def season = SEASONS.fetch(southern?)
      SEASONS = [true, false].to_h { |southern| [southern, Core::Season.new(southern: southern)] }.freeze

      # @raise [Missing] when this orchard has no such row
      def tree!(id) = find!(:trees, id)
      def limb!(id) = find!(:limbs, id)
      # One that has not come off.
      def standing_limb!(id) = limb!(id).tap { |limb| raise Missing if limb.gone_on }
      def graft!(id) = find!(:grafts, id)
      # That very one, to be changed itself: not what it was merged into since.
      def variety_itself!(id) = find!(:varieties, id)
      # Instead of one that was merged, the one that is left.
      def variety!(id)
        variety_itself!(id)
      rescue Missing
        find!(:varieties, Variety.of_orchard!(self, id).same_as_id || raise)
      end
      # One whose limb has not come off.
      def site!(id) = find!(:sites, id).tap { |site| raise Missing unless site.stands? }
      def bundle!(id) = find!(:bundles, id)
      def store!(id) = find!(:stores, id)
      def wound!(id) = find!(:wounds, id)
      def stick!(id) = find!(:sticks, id)

      # The season whose work can still be planned: the present one until bark has closed on the last kind here, and on
      # the last tree that is seen to lift beyond it.
      def season_to_plan(today)
        once(:season_to_plan, today) do
          closes = bark_forecast(today).closes_last
          season.name_of(today) + (closes && today > closes ? 1 : 0)
        end
      end

      # The season whose stubs take their wood from a store now: the one that is planned for, or the present one while a
      # stub of it, that needs no bark that slips, can still be set.
      def season_of_wood(today)
        once(:season_of_wood, today) do
          this, following = season.name_of(today), season_to_plan(today)
          following > this && last_days(today).stubs_at_rest.any? ? this : following
        end
      end

      # The season whose growth is counted on a day: the last summer's, until spring.
      def season_to_count(day) = season.name_counted(day, rulebook.value("care.calendar.waking"))

      # The day from which a season's growth can be counted: it has stopped.
      def count_opens(name)
        season.next_day(rulebook.value("care.calendar.autumn"), season.span(name).begin)
      end

      # The last season that has stopped growing by a day.
      def season_grown(day) = season.name_of(day).then { |name| day < count_opens(name) ? name - 1 : name }

      # Trees with their limbs, grafts and visits, few questions for many trees.
      def trees_in_full(ids)
        trees_dataset.where(id: ids, hidden_at: nil).eager(limbs: { grafts: %i[visits tallies] }).all
          .each do |tree|
          tree.associations[:orchard] = self
          tree.limbs.each { |limb| limb.associations[:orchard] = self }
        end
      end

      # The species that stand here.
      def species = @species ||= LooseIndexScan.values(trees_dataset.where(hidden_at: nil), :species)

      # The names of its rows, in order, as many as a page can offer.
      def rows = @rows ||= LooseIndexScan.values(trees_dataset.where(hidden_at: nil), :row, most: 400)

      # The first tree of which no limb is surveyed.
      def bare_tree = for_page(:bare_tree) { TreeQueries.bare_tree(self) }

      # The tree to begin with where nothing can be planned yet: no limb of any tree is surveyed.
      def measured_first = (bare_tree unless TreeQueries.limbs?(self))

      # What a length is kept to, in mm: a cut at the very height of the reach may lie so far above it.
      KEPT_TO = 0.1
      private_constant :KEPT_TO

      # Whether a place is above the ladder's reach.
      def beyond_reach?(height_mm) = (height_mm || 0) > reach_mm.to_f + KEPT_TO

      # Whether no tree stands here; asked of one row, where all would be counted.
      def treeless? = for_page(:treeless) { trees_dataset.where(hidden_at: nil).empty? }

      def tree_count = @tree_count ||= trees_dataset.where(hidden_at: nil).count

      # How many rows each of its tables has.
      #
      # @param tables [Hash{String=>Symbol}] tables by what they are called
      # @return [Hash{String=>Integer}]
      def counts(tables) = tables.transform_values { |table| DB[table].where(orchard_id: pk).count }

      # The trees of a row, in walking order.
      def trees_of_row(row, most: 500)
        trees_dataset.where(hidden_at: nil, row: row.to_s[0, 40]).order(:number).limit(most).all
      end

      # The trees of several rows, by id, in walking order.
      #
      # @param more [Array<Integer>] single trees that go with them
      def tree_ids_of_rows(rows, more: [])
        trees_dataset.where(hidden_at: nil).where(Sequel.|({ row: rows }, { id: more })).order(:row, :number)
          .select_map(:id)
      end

      # Trees by what they are called, in capitals.
      #
      # @param labels [Array<String>] row and number without a gap
      # @return [Hash{String=>Integer}] ids of those that are here
      def tree_ids_of_labels(labels)
        label = Sequel.join([Sequel.function(:upper, :row), Sequel.cast_string(:number)])
        trees_dataset.where(hidden_at: nil, label => labels).select_hash(label.as(:label), :id)
      end

      # A planned limb of a plan in use.
      #
      # @raise [Missing]
      def planned_limb!(id)
        PlanQueries.in_use(self).where(Sequel[:plan_limbs][:id] => RowNumber.read(id)).first or raise Missing,
               "no such planned limb here"
      end

      # A wish for many trees, and how far it is.
      #
      # @raise [Missing]
      def pattern!(id) = Pattern.first(orchard_id: pk, id: RowNumber.read(id)) || raise(Missing)

      # @raise [Missing]
      def member!(id) = Membership.in_sight.first(orchard_id: pk, id: id) || raise(Missing)

      # @raise [Missing]
      def wood_promise!(id) = WoodPromise.in_sight.first(orchard_id: pk, id: RowNumber.read(id)) || raise(Missing)

      # A file on its way in, or that came.
      #
      # @raise [Missing]
      def import!(id) = Import.first(orchard_id: pk, id: RowNumber.read(id)) || raise(Missing)

      # What was measured in a photo that is in sight.
      #
      # @raise [Missing]
      def measure!(id)
        measure = PictureMeasure.in_sight.first(orchard_id: pk, id: RowNumber.read(id)) or raise Missing
        photo!(measure.photo_id) && measure
      end

      # A photo of a tree that is in sight.
      #
      # @raise [Missing]
      def photo!(id)
        standing = Tree.in_sight.where(orchard_id: pk).select(:id)
        Photo.in_sight.first(orchard_id: pk, id: RowNumber.read(id), tree_id: standing) or raise Missing
      end

      # How long sticks are cut here, in mm, by the school's practice.
      def stick_mm = rulebook.value("reckoning.wood.stick_long").fetch(rulebook.practice("stick", school))

      def varieties_in_sight = varieties_dataset.where(hidden_at: nil).all

      private

      def once(*what) = (@once ||= {})[what] ||= yield

      # Read once in a request that only reads, anew everywhere else.
      def for_page(*what, &read) = reading? ? once(*what, &read) : read.call

      # Read again, nothing it knew before holds.
      def _refresh(dataset)
        @once = @species = @rows = @tree_count = nil
        super
      end

      def find!(table, id)
        model = { trees: Tree, limbs: Limb, grafts: Graft, varieties: Variety, sites: Site, bundles: Bundle,
                  stores: Store, wounds: Wound, sticks: Stick }.fetch(table)
        row = model.with_pk(RowNumber.read(id))
        row && row.orchard_id == pk && row.values[:hidden_at].nil? ? row :
          raise(Missing, "no such #{table.to_s.chomp('s')} here")
      end
    end
  end
end
