# frozen_string_literal: true

module Vestry
  module Records
    # A graft that was made.
    class Graft < Sequel::Model(DB[:grafts])
      include Row
      many_to_one :orchard
      many_to_one :limb
      many_to_one :variety
      one_to_many :visits, class: "Vestry::Records::Visit", order: %i[seen_on id], conditions: { hidden_at: nil }
      one_to_many :tallies, order: :season, conditions: { hidden_at: nil }
      one_to_many :tasks_done, class: "Vestry::Records::TaskDone", conditions: { hidden_at: nil }

      one_to_many :set_sticks, class: "Vestry::Records::Stick", order: %i[bundle_id number]

      # Of which its sticks are.
      #
      # @return [Array<Bundle>]
      def bundles = set_sticks.map(&:bundle).uniq

      # Those whose aftercare was given to someone.
      def self.tended(orchard, name) = in_sight.where(orchard_id: orchard.id, tended_by: name).order(:id).all

      # @return [Array<Graft>] those logged on a limb on that day, in the order they were logged
      def self.made_on(limb, day) = in_sight.where(limb_id: limb.id, grafted_on: day).order(:id).all

      # The last word on it.
      #
      # @param day [Date, nil] what came later is not heard
      # @return [Hash] as Core::Tally::GraftOutcome answers
      def outcome(day = nil)
        Core::Tally::GraftOutcome.of(visits: visits.map { |each| { on: each.seen_on, verdict: each.verdict,
          buds: each.buds } }, counts: tallies.map { |each| { on: each.tallied_on, alive: each.alive } },
          lost_on: lost_on, day: day)
      end

      # How many of its sticks live, by the last visit or count that says; of two of one day, by the later.
      def living_sticks
        told = [*visits.map { |each| [each.seen_on, each.sticks_alive] },
                *tallies.map { |each| [each.tallied_on, each.sticks_alive] }].select(&:last)
        told.each_with_index.max_by { |(day, _), place| [day, place] }&.first&.last || sticks
      end

      # How it was finished.
      #
      # @param point [Symbol] wrap, seal, cover or perch
      # @return [String, Boolean, nil] nil where its kind knows no such thing
      def finish(point)
        public_send(point) if Core::Graft::GraftKind.asks?(kind, point.to_s)
      end

      # Whether it was set into a bare stretch: its limb began with it.
      def filled? = Core::Graft::GraftKind.filled?(technique, cut_mm)

      # How it is followed: on a stub, in a side, a bud, or joined to a rooted plant.
      def kind = Core::Graft::GraftKind.of(technique)

      # Where its limb was cut off for it; nil where the head stayed on.
      def head_cut_mm = (cut_mm if Core::Rulebook.shipped.heads?(technique))

      # Whether it was set into a side and lost: its limb is as if it had not been.
      def lost_in_side? = !lost_on.nil? && !Core::Rulebook.shipped.heads?(technique)

      # Whether another speaks for its limb: it was lost in a side, or from a stub on which another lives.
      def set_aside? = lost_in_side? || !living_mate.nil?

      # What lives on the same stub, where it was lost itself.
      #
      # @param day [Date, nil] what came later is not heard
      # @return [Graft, nil] the latest
      def living_mate(day = nil)
        others = limb.grafts.select { |each| each.on_stub_of?(self) && (day.nil? || each.grafted_on <= day) }
        return if others.empty? || fate(day) != "lost"

        others.reverse.find { |each| each.fate(day) != "lost" }
      end

      # The first that was made on its limb after it.
      #
      # @return [Graft, nil]
      def followed_by(day)
        limb.grafts.find do |each|
          each.grafted_on <= day && ([each.grafted_on, each.id] <=> [grafted_on, id]).positive?
        end
      end

      # Whether it is another that was set on the same stub, within a season.
      def on_stub_of?(other)
        return false if id == other.id || [self, other].any? { |each| each.head_cut_mm.nil? }

        mm, days = Graft.one_stub
        Core::Near.within?((cut_mm - other.cut_mm).to_f, -mm, mm) &&
          (grafted_on - other.grafted_on).abs <= days
      end

      # How far apart, in mm and days, two may be that stand on one stub.
      def self.one_stub
        %w[mm days].map { |unit| Core::Rulebook.shipped.value("reckoning.regraft.beside_#{unit}") }
      end

      # Whether the head is off above it: it stands on a stub, or below one, or the head was cut off since.
      #
      # @param day [Date, nil] what came later is not heard
      def head_off?(day = nil)
        Core::Rulebook.shipped.heads?(technique) || !cut_off_at_mm.nil? ||
          headings.any? { |event| day.nil? || event.happened_on <= day }
      end

      # Where its limb ends in a stub, by it or by one that was made before it; nil where the head stands.
      def cut_off_at_mm
        head_cut_mm || limb.grafts.select { |each| each.grafted_on <= grafted_on }.filter_map(&:head_cut_mm).last
      end

      # Where that stub ends by now: its limb may have broken below it since.
      def stub_end_mm = cut_off_at_mm && [cut_off_at_mm, limb[:length_mm]].compact.min

      # What took the head off above it, down to a snag.
      def headings
        return [] unless cut_mm

        most = cut_mm + orchard.rulebook.value("reckoning.cuts.snag_most")
        @headings ||= LimbEvent.shortened(limb, from: grafted_on, to_mm: cut_mm..most)
      end

      # Up to where wood is fresh below the stub that its limb ends in, where what was set there died.
      #
      # @return [Float, nil] mm from the fork; nil where the head stands
      def fresh_to_mm
        at = stub_end_mm and Core::Plan::Recut.fresh_to(at, orchard.rulebook)
      end

      # Where its stub is cut again if it was lost: to fresh wood, and not into the fork.
      #
      # @return [Float, nil] mm from the fork; nil where it is not known where it was cut, or it was no cut stub
      def fresh_cut_mm
        Core::Plan::Recut.at(stub_end_mm, orchard.rulebook) if head_cut_mm
      end

      # Whether its stub is too near the fork to be cut again.
      def no_room? = !head_cut_mm.nil? && !Core::Plan::Recut.room?(stub_end_mm, orchard.rulebook)

      # Where a plant that is joined is joined again if it was lost: on fresh bark a little higher, while the limb is so
      # long.
      #
      # @return [Float, nil] mm from the fork; nil of any other graft
      def rejoined_mm
        return unless kind == "approach" && cut_mm

        higher = cut_mm + orchard.rulebook.value("reckoning.regraft.higher")
        (limb.length_mm && higher < limb.length_mm ? higher : cut_mm).to_f
      end

      # @return [String] took, lost or waiting
      def fate(day = nil) = outcome(day)[:state]
    end
  end
end
