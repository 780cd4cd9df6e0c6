# frozen_string_literal: true

module Vestry
  module Deeds
    # What was measured in a photo is kept with its marks, or its marks are corrected.
    module MeasurePicture
      # @param wish [Hash] +what+, and the marks as Core::Survey::Pictured takes them
      # @return [Hash] columns of a Records::PictureMeasure
      # @raise [Refused] with +marks+, for what measures nothing
      def self.figures(wish)
        what, marks = wish[:what].to_s, wish.except(:what)
        raise Refused, marks: ["are of nothing that is measured in a picture"] unless
          Records::PictureMeasure::WHAT.key?(what)

        told = Core::Survey::Pictured.reckon(marks)
        { what: what, **Records::PictureMeasure.columns(Core::Survey::Pictured.contract.check(marks), told) }
      rescue Core::BadInput => e
        raise Refused, marks: ["#{e.field}: #{e.allowed}"]
      end

      # @return [Records::PictureMeasure]
      def self.add(photo, figures, by:)
        Ledger.add(Records::PictureMeasure, { **figures, orchard_id: photo.orchard_id, photo_id: photo.id, by: by },
                   by: by)
      end

      # The marks moved.
      #
      # @param version [Integer, nil] that was shown
      # @raise [Refused], [Conflict]
      def self.correct(measure, marks, by:, version: nil)
        Ledger.change(measure, figures({ **marks, what: measure.what }), by: by, version: version)
      end
    end
  end
end
