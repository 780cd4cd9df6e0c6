# frozen_string_literal: true

module Vestry
  module Deeds
    # The head that is cut off above what was set below it, when the task that asks for it is done: the limb ends there
    # from then on, and what left it above is off.
    module HeadAbove
      # What is said of it in the limb's story.
      NOTE = "above what was set below it"

      # @param of [Records::Graft, Records::Wound] what the task is of
      def self.call(of, key, by:, today:)
        return unless heads?(of, key) && of.cut_mm

        left = (of.cut_mm + of.orchard.rulebook.value("reckoning.cuts.snag")).to_f
        limb = of.limb
        ends = [limb[:length_mm], of.cut_off_at_mm].compact.min
        return if limb.gone_on || (ends && ends <= left)

        RecordLimbEvent.call(limb, { kind: "headed", happened_on: [today, limb.surveyed_on].max, left_mm: left,
                                     note: NOTE }, by: by, today: today)
      end

      # Whoever measures or decides on the tree waits: a limb's events hold that first, too.
      def self.hold(of, key) = (of.limb.tree.locked if heads?(of, key))

      # @raise [Refused] where what it changed was changed since
      def self.undo(of, key, by:)
        return unless heads?(of, key)

        event = of.headings.select { |each| each.note == NOTE }.last
        TakeBackEvent.call(event, by: by) if event
      end

      def self.heads?(of, key)
        of.is_a?(Records::Graft) && of.orchard.rulebook.rules("care").dig(key[/\A[^:]+/], "heads")
      end

      private_class_method :heads?
    end
  end
end
