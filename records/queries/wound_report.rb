# frozen_string_literal: true

module Vestry
  module Records
    # A wound with everything that follows from its facts: how much is girdled, what it calls for and
    # how pressing it is, where scions go and from which shoots, its care, and how it stands.
    class WoundReport
      attr_reader :wound, :today

      # @param spring [BarkForecast] may be shared by many wounds
      # @param bark [BarkForecast::TreeBark, nil] what it says of this tree, where that is known
      # @param reckoned [Hash, nil] its +share+, +triage+ and +mending+, where they were worked out before
      def initialize(wound, today, spring: wound.orchard.bark_forecast(today), bark: nil, reckoned: nil)
        @wound = wound
        @today = today
        @orchard = wound.orchard
        @book = @orchard.rulebook
        @spring = spring
        @bark = bark
        @share, @triage, @mending = reckoned&.values_at(:share, :triage, :mending)
      end

      def shape = wound.shape
      def girth = wound.girth_mm.to_f

      # The share of the girth without bark: from the margins, else as judged at first sight.
      def share = @share ||= wound.measured? ? shape.girdled_share : 1 - (wound.bark_left || 0).to_f

      def bridge
        @bridge ||= Core::Repair::Bridge.reckon({ girth_mm: girth, wound: wound.margins, root_bark: wound.root_bark,
                                                  **figures }, rulebook: @book)
      end

      def figures
        { spacing_mm: @book.value("reckoning.bridge.spacing"), seat_mm: @book.value("reckoning.bridge.seat"),
          bow: @book.value("reckoning.bridge.bow") }
      end

      def triage
        @triage ||= Core::Repair::Triage.reckon({ girdled_share: share, girth_mm: girth, root_bark: wound.root_bark,
                                                  buried: wound.buried, below_union: wound.below_union,
                                                  elsewhere: wound.below_union && elsewhere?,
                                                  drying: wound.drying,
                                                  covered: !wound.covered_on.nil?, leafy: leafy?, opens_on: opens_on,
                                                  closes_on: closes_on, next_opens_on: next_opens_on,
                                                  found_on: wound.found_on, today: today },
                                                rulebook: @book)
      end

      # Whether its wood never sleeps: it is cut on the day, and none is kept.
      def leafy? = @book.evergreen?(wound.tree.species)

      # What is done about it: as decided, else as advised.
      def course = wound.course || advised
      # The course that its verdict comes to.
      def advised
        { "advised" => "bridge", "needed" => "bridge" }.fetch(triage[:verdict], triage[:verdict])
      end
      def decided_otherwise? = !wound.course.nil? && wound.course != advised
      def repaired? = !past(wound.repaired_on).nil?
      def settled? = Core::Repair::Mending.settled?(mending[:state])

      # Where scions go, in order round the trunk: those planned by hand, else as reckoned; each with its own gap and
      # length. Where no bridge is set, only what stands in the trunk already.
      #
      # @param course [String] what is done about it
      # @return [Array<Hash>] +number+, +bearing_deg+, +gap_mm+, +length_mm+, +low_mm+, +high_mm+, +row+ (nil while
      #   reckoned), and +stock+ of one that is rooted
      def places(course = self.course)
        rows = course == "bridge" ? wound.scions : wound.seated
        return reckoned_places if rows.empty? && course == "bridge"

        rows.sort_by { |row| [row.bearing_deg, row.number] }.map { |row| place(row, course) }
      end

      # One row's place. A stock stands in the soil and is as long as it grew.
      def place(row, course)
        at = wound.scion_at(row.bearing_deg.to_f)
        at = at.merge(low_mm: 0.0, stock: true) if course == "inarch"
        at = at.merge(gap_mm: row.gap_mm.to_f, length_mm: row.length_mm.to_f) if row.set_on && row.length_mm
        at.merge(number: row.number, row: row, fate: fates[row.id])
      end

      def reckoned_places
        bridge[:scions].each_with_index.map { |each, i| each.merge(number: i + 1, row: nil, fate: nil) }
      end

      # How each set scion was last seen: alive, dead, or nil.
      def fates = @fates ||= wound.fates_by(today)

      # How it stood by what was known at each look: its state, living scions, what they carried, its leaves.
      #
      # @return [Array<Hash>] +on+, +visit+, +state+, +living+, +set+, +carried+
      def verdicts
        wound.visits.select { |visit| visit.seen_on <= today }.map do |visit|
          then_told = WoundReport.new(wound, visit.seen_on, spring: @spring)
          { on: visit.seen_on, visit: visit, state: then_told.mending[:state], living: then_told.living.size,
            set: then_told.fates.size, carried: then_told.carried }
        end
      end

      def living = wound.seated.select { |row| fates[row.id] == "alive" }

      # The share of the wound that living scions carry, once they were looked at; of stocks beside a
      # wound whose margins nobody measured, the share that live.
      def carried
        seen = wound.seated.select { |row| row.set_on <= today && fates.key?(row.id) }
        return nil if seen.empty?

        wound.measured? ? shape.carried(living.map { |row| row.bearing_deg.to_f }, girth, figures[:spacing_mm]) :
          living.size / needed(seen).to_f
      end

      # Those that were set at first were as many as it needs.
      def needed(seen) = [seen.count { |row| row.set_on == wound.repaired_on }, living.size, 1].max

      # The shoots kept whole for bridging that live on this tree, and which scion is cut from which.
      def shoots
        @shoots ||= begin
          wanted = unset.select { |each| each[:gap_mm].positive? }
          scions = wanted.map { |each| each.slice(:length_mm).merge(id: each[:number]) }
          cut = Core::Repair::Shoots
            .reckon({ scions: scions, shoots: whole_shoots.map { |each| measures(*each) } }, rulebook: @book)
          cut.merge(wanted_mm: wanted.sum { |each| each[:length_mm] })
        end
      end

      # Places whose scion is not set yet.
      def unset = places.reject { |place| place[:row]&.set_on }

      # Each whole shoot in the store that lives on this tree, with its bundle.
      def whole_shoots
        @whole_shoots ||= @orchard.wood_store(today).shoots(season: @orchard.season.name_of(today))
          .select { |bundle| suits?(bundle) }
          .flat_map { |bundle| bundle.sticks.select(&:here?).map { |stick| [stick, bundle] } }
      end

      # The shoot that a scion is to be cut from, by the scion's number.
      #
      # @return [Array(Stick, Bundle), nil]
      def shoot_of(number)
        cut = shoots[:cuts].find { |each| each[:scions].include?(number) } or return nil

        whole_shoots.find { |stick, _| stick.id == cut[:shoot] }
      end

      # The shoots that the scions at some bearings are to be cut from, each once.
      #
      # @param bearings [Array<Numeric>] in degrees
      # @return [Array(Stick, Bundle)]
      def shoots_at(bearings)
        places.select { |place| bearings.include?(place[:bearing_deg].to_f) }
          .filter_map { |place| shoot_of(place[:number]) }.uniq
      end

      def suits?(bundle)
        %w[good workable].include?(@book.compatibility(wound.tree.species, bundle.variety.species)["value"])
      end

      def mending
        @mending ||= Core::Repair::Mending.of(
          { course: course, cause: wound.cause, species: wound.tree.species, girdled_share: share.to_f,
            found_on: wound.found_on, covered_on: past(wound.covered_on), repaired_on: past(wound.repaired_on),
            wrap: wound.wrap, southern: @orchard.southern?, **bark_days, carried: carried&.to_f, **recorded,
            school: wound.tree.school, today: today }, climate, @book
        )
      end

      # What was set, seen and settled.
      def recorded
        { set: wound.seated.map { |row| { id: row.id, on: row.set_on } },
          visits: wound.visits.map { |visit| seen(visit) },
          done: wound.tasks_done.map do |each|
            { key: each.key, on: each.done_on, what: each.what, until: each.until_on, why: each.why }
          end }
      end

      # When bark slips and closes, as its care reads it.
      def bark_days = { slips_on: opens_on, closes_on: closes_on, next_slips_on: next_opens_on }

      # Whether its variety stands on another tree, by itself or grafted.
      def elsewhere?
        kind = wound.tree.variety_id or return false

        !Tree.in_sight.where(orchard_id: @orchard.id, variety_id: kind).exclude(id: wound.tree_id).empty? ||
          !GraftQueries.standing_grafts(@orchard).where(Sequel[:grafts][:variety_id] => kind).empty?
      end

      # The stump that its own wood was set on, as it stands in the survey.
      #
      # @return [Limb, nil]
      def stump = (wound.tree.standing_leader if course == "stump-graft" && repaired?)

      # What is known of the graft on the stump before it is logged: where it was cut, how thick it is there, and how
      # many sticks such a stub takes.
      #
      # @return [Hash] +cut_mm+, +stub_mm+, +technique+ (what suits so thick a stub best) and +sticks+
      def stump_graft
        across = CoreInputs.diameter_at(stump, stump.length_mm)
        { cut_mm: stump.length_mm.to_f, stub_mm: across, technique: stump_technique(across),
          sticks: CoreInputs.sticks(stump, across)[:count] }
      end

      def stump_technique(across)
        slips = wound.repaired_on.between?(opens_on, closes_on)
        CoreInputs.methods(stump, across, slipping: slips, today: today)[:ranking].first&.fetch(:method)
      end

      def past(day) = day && day <= today ? day : nil
      def seen(visit)
        { on: visit.seen_on, leaves: visit.leaves, scions: visit.fates.map { |id, row| { id: id, fate: row[:fate] } } }
      end
      def climate
        from = [wound.repaired_on, wound.seated.map(&:set_on).max].compact.uniq
        read = ->(&ask) { from.flat_map(&ask).uniq { |day| day[:date] } }
        @spring.weather.climate_of(read.call { |on| @spring.weather.days(on, on + LOOKED_AT - 1) },
                                   earlier: -> { read.call { |on| @spring.weather.earlier(on, LOOKED_AT) } })
      end

      # So many days on from a repair, and from what was set last, are looked at, of their own year and of earlier ones.
      LOOKED_AT = 120
      private_constant :LOOKED_AT

      # This season's bark, or the coming one's where the wound was found after it had closed.
      def opens_on = bark&.opens_on || usual_opening(today)
      def closes_on = bark&.closes_on || @spring.closes_on(wound.tree.species)
      def next_opens_on = usual_opening(today >> 12)
      # From when a scion can be set: this season, or in the next once bark has closed.
      def slips_from(day) = day > closes_on ? next_opens_on : opens_on

      private

      def measures(stick, bundle)
        { id: stick.id, length_mm: (bundle.length_mm || @orchard.stick_mm).to_f, diameter_mm: stick.diameter_mm&.to_f }
      end

      def bark = @bark ||= @spring.of_trees([wound.tree]).first
      # The ordinary day of its kind, by the place.
      def usual_opening(day)
        number = Core::Slip::Closing.opens_day(wound.tree.species, @orchard.latitude, @orchard.altitude_m, @book)
        @orchard.season.bark_day(number.round + 1, day)
      end
    end
  end
end
