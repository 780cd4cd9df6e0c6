# frozen_string_literal: true

module Vestry
  module Records
    # Figures of the rulebook as an orchard's own seasons before this one tell them: how fast cut faces close, how thick
    # a first-year shoot is at its foot, what a year adds to a graft, how long a shoot grows for the push of its roots,
    # and how long cut wood lives.
    class OwnFigures
      # The latest so many counts, and trees of which shoots are learned.
      MOST, TREES = 1500, 200
      # A shorter shoot says little of how it thickens.
      LEAST_SHOOT_MM = 100
      private_constant :MOST, :TREES, :LEAST_SHOOT_MM

      # @param today [Date]
      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @book = orchard.rulebook_as_set
      end

      # @return [Hash{String=>Hash}] path of the rulebook => Core::Tally::Learned's answer, where anything was seen; a
      #   figure by kind has the kind behind its path
      def all
        @all ||= { "reckoning.closure.fed" => closing, "reckoning.union.thickens" => foot,
                   "reckoning.regrowth.ring" => ring, **shoots, **wood }.compact
      end

      # What is used of it, as it is laid over the rulebook; not where the steward has said another.
      #
      # @return [Hash{String=>Hash}]
      def used
        fields = all.select { |path, told| told[:used] && plausible?(path, told[:own]) }
          .reject { |path, _| @book.overrides.key?(entry(path)) }
        fields.keys.group_by { |path| entry(path) }.to_h do |path, all_of_it|
          [path, { "value" => laid(path, all_of_it.to_h { |each| [each, fields[each][:own].round(5)] }),
                   "why" => "Learned from what was counted here.", "who" => "the counts" }]
        end
      end

      private

      # What the rulebook would not let a steward say is not learned either.
      def plausible?(path, value)
        range = path.start_with?(SHOOTS) ? nil : @book.entry(path).range
        range.nil? || value.between?(*range)
      end

      # A shoot's figure stands in one entry with those of all kinds.
      def entry(path) = path.start_with?(SHOOTS) ? SHOOTS : path
      SHOOTS = "reckoning.vigour.ordinary"
      private_constant :SHOOTS

      def laid(path, own)
        return own.fetch(path) unless path == SHOOTS

        @book.value(path).merge(own.transform_keys { |each| each.delete_prefix("#{SHOOTS}.") })
      end

      def figure(path, seen) = seen.empty? ? nil : Core::Tally::Learned.figure(@book.value(path), seen, rulebook: @book)

      def closing
        figure("reckoning.closure.fed", of_grafts { |row| row[:open_a_mm] }.filter_map do |all|
          fed = Core::Tally::Closure.fed(all.first[:stub_mm], all.map { |row| opening(row) }, living(all.last))
          [all.last[:season], fed] if fed&.positive?
        end)
      end

      def opening(row) = { season: age(row), a_mm: row[:open_a_mm] }
      def living(row) = [row[:sticks_alive] || row[:sticks], 1].max

      def foot
        thinnest = @book.value("reckoning.union.thinnest")
        long = first_year.select { |row| row[:above_mm] && row[:growth_mm] >= LEAST_SHOOT_MM }
        seen = long.map { |row| [row[:season], (row[:above_mm] - thinnest) / row[:growth_mm]] }
        figure("reckoning.union.thickens", seen.select { |_, thickens| thickens.positive? })
      end

      # A year's wood of each graft, from its last two autumns.
      def ring
        figure("reckoning.regrowth.ring", of_grafts { |row| row[:above_mm]&.positive? }.filter_map do |all|
          wide = Core::Plan::Regrowth.ring(all.map { |row| { season: row[:season], mm: across(row) } })
          [all.last[:season], wide] if wide
        end)
      end

      def across(row) = Core::Tally::Scaffold.as_one(row[:above_mm], row[:sticks_alive])

      # By kind: what the longest shoots of the first year come to without the push of what was cut.
      def shoots
        trees = first_year.group_by { |row| row.values_at(:tree_id, :season) }.first(TREES)
        sights = trees.filter_map do |(tree, season), few|
          push = push(tree, season) or next
          [few.first[:species], season, few.sum { |row| row[:growth_mm] } / few.size / push]
        end
        sights.group_by(&:first).to_h { |species, all| ["#{SHOOTS}.#{species}", shoot(species, all)] }
      end

      def shoot(species, sights)
        Core::Tally::Learned.figure(@book.value(SHOOTS).fetch(species), sights.map { |_, season, mm| [season, mm] },
                                    rulebook: @book)
      end

      # How hard the roots of a tree pushed in a season, by the sections of its limbs that were grafted in it.
      def push(tree, season)
        limbs = sections.fetch(tree, [])
        made = limbs.select { |limb| limb[:grafted].include?(season) }
        whole = limbs.sum { |limb| limb[:mm]**2 }
        return nil unless whole.positive? && made.any?

        kept = 1 - made.sum { |limb| limb[:mm]**2 } / whole
        Core::Plan::Vigour.call(kept: kept.clamp(0.0, 1.0), stubs: made.size, rulebook: @book)[:push]
      end

      # The main limbs of the trees that are learned from, by tree.
      def sections
        @sections ||= Limb.where(tree_id: first_year.map { |row| row[:tree_id] }.uniq, parent_id: nil)
          .eager(:grafts).all.group_by(&:tree_id).transform_values do |limbs|
          limbs.map do |limb|
            { mm: limb.across_mm, grafted: limb.grafts.map { |graft| @orchard.season.name_of(graft.grafted_on) } }
          end
        end
      end

      def first_year = @first_year ||= rows.select { |row| age(row) == 1 && row[:growth_mm]&.positive? }
      # Autumns since it was grafted.
      def age(row) = row[:season] - @orchard.season.name_of(row[:grafted_on]) + 1

      def of_grafts(&asked) = rows.select(&asked).group_by { |row| row[:graft_id] }.values
        .map { |all| all.sort_by { |row| row[:season] } }

      def rows
        @rows ||= counts.where(Sequel[:tallies][:season] < @orchard.season.name_of(@today))
          .order(Sequel.desc(Sequel[:tallies][:season]), Sequel.desc(Sequel[:tallies][:id])).limit(MOST)
          .select(*COLUMNS, *SIZES.map { |name| Sequel.cast(name, Float).as(name) }).all
          .reject { |row| Tally.early?(@orchard, row[:season], row[:tallied_on]) }
      end

      def counts
        DB[:tallies].join(:grafts, id: :graft_id).join(:limbs, id: Sequel[:grafts][:limb_id])
          .join(:trees, id: Sequel[:limbs][:tree_id])
          .where(Sequel[:tallies][:orchard_id] => @orchard.id, Sequel[:tallies][:hidden_at] => nil,
                 Sequel[:grafts][:hidden_at] => nil, alive: true, species: Core::Rulebook.shipped.species_names)
      end

      COLUMNS = [:graft_id, Sequel[:tallies][:season], :tallied_on, :grafted_on, :tree_id, :species, :sticks_alive,
                 :sticks].freeze
      SIZES = %i[growth_mm above_mm open_a_mm stub_mm].freeze
      private_constant :COLUMNS, :SIZES

      # By kind, from sticks of a bundle that were forced and moved or did not.
      def wood
        forced.group_by { |test| test[:species] }.filter_map do |species, tests|
          path = "species.#{species}.wood_life"
          [path, Core::Wood::OwnLife.figure(@book.value(path), tests, rulebook: @book)] if @book.known?(path)
        end.to_h
      end

      def forced
        BundleCheck.where(orchard_id: @orchard.id).exclude(forced: nil)
          .where(Sequel[:seen_on] < this_season).eager(bundle: :variety).limit(MOST).all.filter_map do |check|
          age = WoodStore.new(@orchard, check.seen_on).aged(check.bundle).last or next
          { species: check.bundle.variety.species, year: @orchard.season.name_of(check.seen_on),
            days: age[:equivalent_days], forced: check.forced, moved: check.forced_moved }
        end
      end

      def this_season = @this_season ||= @orchard.season.span(@orchard.season.name_of(@today)).begin
    end
  end
end
