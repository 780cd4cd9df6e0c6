# frozen_string_literal: true

module Vestry
  module Deeds
    # Corrects what was logged of a graft, keeping what it corrected.
    module CorrectGraft
      # What the rulebook and the calendar look at.
      WEIGHED = %i[grafted_on known_since technique stub_mm sticks donor against_reason].freeze
      # What its bundle has to fit.
      FITTED = %i[grafted_on variety_id].freeze
      private_constant :WEIGHED, :FITTED

      # @param values [Hash] columns of a graft, those that were changed
      # @param bundle [Records::Bundle, nil] the one its sticks are from
      # @return [Records::Graft]
      # @raise [Refused] as when it is logged, or where its day is after what was recorded of it; Conflict when someone
      #   else changed it
      def self.call(graft, values, bundle:, by:, today:, version: nil)
        DB.transaction do
          graft.limb.locked
          was = graft.locked
          values = checked(was, values, today) if (values.keys & WEIGHED).any?
          check_place(was, values) if values.key?(:cut_mm)
          now = values.any? ? Ledger.change(was, values, by: by, version: version) : was
          cut_again(was, now, by)
          settle_wood(was, now, bundle, by)
          now
        end
      end

      def self.checked(was, values, today)
        told = was.values.merge(values)
        against = SoundGraft.against(was.limb, told)
        SoundGraft.check(was.limb, told, against, today)
        before_the_rest(was, told[:grafted_on])
        values.merge(against_reason: against && told[:against_reason])
      end

      def self.check_place(was, values)
        wrong = SoundGraft.place_errors(was.limb, was.values.merge(values))
        raise Refused, wrong if wrong.any?
      end

      # Whatever is recorded of a graft came after it.
      def self.before_the_rest(graft, day)
        first = [*graft.visits.map { |each| ["a visit", each.seen_on] },
                 *graft.tallies.map { |each| ["a count", each.tallied_on] },
                 *graft.tasks_done.map { |each| ["work on it", each.done_on] },
                 *([["its loss", graft.lost_on]] if graft.lost_on)].min_by(&:last)
        return if first.nil? || day <= first.last

        raise Refused, grafted_on: ["is after #{first.first} on #{SaidDay.of(first.last)}"]
      end

      # Where it is cut elsewhere, or on another day, other limbs went with the top.
      def self.cut_again(was, now, by)
        return if was.head_cut_mm == now.head_cut_mm && was.grafted_on == now.grafted_on

        LogGraft.stand_again(was, by)
        LogGraft.fell(was.limb.reload, now, by) if now.head_cut_mm
      end

      def self.settle_wood(was, now, bundle, by)
        set = was.set_sticks
        if bundle&.id == set.first&.bundle_id && was.sticks == now.sticks
          MoveSticks.fits!(bundle, now) if bundle && FITTED.any? { |column| was[column] != now[column] }
          return
        end

        MoveSticks.give_back(now, by: by) if set.any?
        MoveSticks.use(bundle, now, now.sticks, by: by, first: set.map(&:id)) if bundle
      end
      private_class_method :checked, :check_place, :before_the_rest, :cut_again, :settle_wood
    end
  end
end
