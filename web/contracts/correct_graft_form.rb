# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A graft that was logged, corrected.
      class CorrectGraftForm < LogGraftForm
        lengths superclass.lengths
        numbers superclass.numbers
        columns variety_id: :variety, stub_mm: :stub, stub_typed: :stub, scion_mm: :scion, cut_mm: :cut

        params(LogGraftForm.schema) { optional(:version).filled(:integer) }

        class << self
          # Its columns that were changed.
          #
          # @raise [Deeds::Refused]
          def to_row(reading, orchard)
            v = reading.values
            row = reading.changed({ **as_said(v), variety_id: named(orchard, :variety, v[:variety]).id,
                                    stub_mm: v[:stub], stub_typed: reading.typed["stub"].to_s, scion_mm: v[:scion],
                                    cut_mm: v[:cut], faces: v[:faces] ? read_faces(v[:faces], v[:sticks]) : [],
                                    **finish(v) })
            row = known(row, v[:technique])
            # Where so many sit that nobody said where.
            row.key?(:sticks) && !row.key?(:faces) ? row.merge(faces: []) : row
          end

          private

          # What may be left out, and is not known then.
          OPTIONAL = %i[minutes bark_slip donor conditions against_reason known_since].freeze
          SAID = %i[grafted_on technique sticks grafter].freeze
          private_constant :OPTIONAL, :SAID

          # What a method's kind does not know stays as it was written down.
          def known(row, technique) = row.except(*(Core::Graft::GraftKind::FINISH.map(&:to_sym) - finished(technique)))

          def as_said(v)
            v.slice(*SAID).merge(OPTIONAL.to_h { |name| [name, v[name]] }, brace: v[:brace] || false)
          end
        end
      end
    end
  end
end
