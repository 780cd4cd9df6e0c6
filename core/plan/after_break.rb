# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What to do with a limb that broke or died back: leave it to a branch, graft it, or renew it, the best first.
      module AfterBreak
        module_function

        # A branch that leaves within reckoning.break.take_over below the break leads on by itself. Else a graft goes
        # where the wood is of a size for one; on its day, or next spring. Else new shoots are let grow.
        #
        # @param diameter_mm [Float] where the limb ends now
        # @param left_mm [Float] of the limb, from its fork
        # @param branches_mm [Array<Float>] where its branches leave it, from its fork
        # @param days_left [Integer, nil] until the last sensible day for a graft; nil where none is known
        # @return [Array<Hash>] +code+ (break_leave, break_graft, break_graft_later, break_renew) and +clean_mm+, where
        #   the clean cut goes, from the fork; with +branch_mm+ or +days_left+
        def ways(diameter_mm:, left_mm:, branches_mm:, days_left:, rulebook:)
          clean = [left_mm - diameter_mm * rulebook.value("reckoning.break.clean"), 0.0].max
          reach = rulebook.value("reckoning.break.take_over")
          near = branches_mm.select { |at| at <= left_mm && at >= left_mm - reach }.max
          [({ code: "break_leave", branch_mm: near, clean_mm: near } if near),
           graft(diameter_mm, clean, days_left, rulebook), { code: "break_renew", clean_mm: clean }].compact
        end

        def graft(diameter_mm, clean, days_left, rulebook)
          low, high = rulebook.value("reckoning.break.graft")
          return nil unless clean.positive? && Near.within?(diameter_mm, low, high)
          return { code: "break_graft_later", clean_mm: clean } if days_left.nil? || days_left.negative?

          { code: "break_graft", clean_mm: clean, days_left: days_left }
        end
        private_class_method :graft
      end
    end
  end
end
