# frozen_string_literal: true

module Vestry
  module Deeds
    # A person's answer to an exercise is judged and kept.
    module Practise
      EXERCISES = { "shoot" => Core::Practice::Shoot, "right-way" => Core::Practice::RightWay,
                    "to-wood" => Core::Practice::ToWood, "line-up" => Core::Practice::LineUp,
                    "where-to-cut" => Core::Practice::WhereToCut, "hands" => Core::Practice::Hands,
                    "face" => Core::Practice::Face, "bridge" => Core::Practice::Bridge,
                    "order" => Core::Practice::Order, "which-face" => Core::Practice::WhichFace,
                    "seat" => Core::Practice::Seat, "seal" => Core::Practice::Seal,
                    "read-graft" => Core::Practice::ReadGraft, "which-shoot" => Core::Practice::WhichShoot,
                    "ten-years" => Core::Practice::TenYears }.freeze

      # The same form sent twice is one try; a second one at a seed counts for nothing.
      #
      # @param answer [Hash] as the exercise's contract has it
      # @param own [Hash, nil] a limb's own numbers
      # @param rulebook [Core::Rulebook] of the orchard that it is done in
      # @return [Records::PracticeTry]
      # @raise [Refused] with the field of the exercise's contract, for one that cannot be
      def self.call(account, exercise, seed:, level:, answer:, today:, rulebook:, own: nil, client_key: nil)
        judged = judge(exercise, { seed: seed, level: level, answer: answer, **(own ? { own: own } : {}) }, rulebook)
        keep(account, { exercise: exercise, seed: seed, level: level },
             { **judged.slice(:score, :passed), answer: answer, own: own, day: today, client_key: client_key })
      end

      # A cut on prunings, as it was measured.
      #
      # @param cut [Hash] +length_mm+, +rocks+, +daylight+, and where they were measured +depth_mm+ and +across_mm+
      # @param photo [IO, nil] as uploaded
      # @raise [Refused] for a kind or a length that cannot be, and for what is no picture
      def self.log_cut(account, kind, cut, today:, photo: nil)
        raise Refused, kind: ["is one of #{Core::Practice::CutLog::KINDS.join(', ')}"] unless
          Core::Practice::CutLog::KINDS.include?(kind)
        raise Refused, length: ["is a length between 1 and 500 mm"] unless cut[:length_mm]&.between?(1, 500)

        depth!(cut)
        image = photo && Outside::PhotoStore.keep(photo)
        Records::PracticeCut.keep(account, { **cut, kind: kind, day: today, image: image })
      rescue Outside::PhotoStore::NotAPicture => e
        raise Refused, photo: ["The file #{e.message}."]
      end

      # How deep it went is told with how thick the stick was.
      def self.depth!(cut)
        depth, across = cut.values_at(:depth_mm, :across_mm)
        return if depth.nil? && across.nil?
        raise Refused, depth: ["is told with how thick the stick is"] if depth.nil? || across.nil?
        return if depth.positive? && depth <= across && across <= 100

        raise Refused, depth: ["is less than the stick is thick, and a stick is up to 100 mm"]
      end

      def self.judge(exercise, question, rulebook)
        EXERCISES.fetch(exercise).reckon(question, rulebook: rulebook)
      rescue Core::BadInput => e
        raise Refused, e.field.delete_prefix("answer.").to_sym => [e.allowed]
      end

      # Whether an orchard's stewards see it.
      def self.show(account, orchard, shown)
        Records::Membership.between(account, orchard)&.update(practice_shown: shown)
      end

      # Two at once wait for each other: one of them is the first.
      def self.keep(account, asked, outcome)
        DB.transaction do
          account.lock!
          Records::PracticeTry.under(account, outcome[:client_key]) ||
            Records::PracticeTry.keep(account, asked, outcome)
        end
      end
      private_class_method :depth!, :judge, :keep
    end
  end
end
