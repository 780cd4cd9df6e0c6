# frozen_string_literal: true

module Vestry
  module Deeds
    # A nurse limb that was shortened as the rulebook advises: it ends so much lower from then on.
    module ShortenNurse
      # @return [Records::LimbEvent]
      # @raise [Refused] where its length is not known, or the day cannot be right
      def self.call(limb, on:, today:, by:)
        DB.transaction do
          limb.tree.locked
          limb = limb.locked
          raise Refused, happened_on: ["has no measured length to be shortened"] unless limb[:length_mm]

          # Pressed twice, it is shortened once; and once for each growth, from however old a page.
          said = Records::LimbEvent.last_headed(limb)
          next said if said && Core::Tend::Nurse.shortened?(said.happened_on, on, limb.orchard.season,
                                                            limb.orchard.rulebook)

          RecordLimbEvent.call(limb, { kind: "headed", happened_on: on, left_mm: left(limb), note: NOTE }, by: by,
                                                                                                   today: today)
        end
      end

      NOTE = "as a nurse limb"

      def self.left(limb)
        (limb[:length_mm].to_f * (1 - limb.orchard.rulebook.value("reckoning.nurse.shorten"))).round(1)
      end
      private_class_method :left
    end
  end
end
