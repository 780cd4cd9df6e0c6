# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # What a column may say, where it says one of a few things.
      module Choices
        module_function

        # @return [Hash{String=>Hash{Symbol=>Array<String>}}] by file and column
        def all
          @all ||= {
            "varieties" => { species: book.kin_names }, "trees" => { species: book.species_names, form: Tree::FORMS },
            "grafts" => { technique: book.stub_methods, **%i[wrap seal
                                                             cover].to_h { |point| [point,
                                                               Core::Tend::Care.choices(point.to_s)] }, lost_cause: book
                                                                 .book("cause").fetch("losses").keys },
            "limb_events" => { kind: LimbEvent::KINDS.keys },
            "plan_limbs" => { technique: book.stub_methods }, "plan_sites" => { technique: book.stub_methods },
            "visits" => { buds: care::BUDS, callus: care::CALLUS, verdict: care::VERDICTS, seal_state: care::SEALS,
                          wrap_state: care::WRAPS, stock_shoots: care::STOCK_SHOOTS, pests: care::PESTS },
            "wounds" => %i[wrap seal].to_h { |point| [point, Core::Tend::Care.choices(point.to_s)] },
            "plans" => { school: book.school_names },
            "phenology_seen" => { stage: PhenologySeen::STAGES.keys },
            "picture_measures" => { what: PictureMeasure::WHAT.keys },
            "tasks" => { what: %w[done waived put-off] }
          }
        end

        def of(table) = all.fetch(table.name, {})
        def book = Core::Rulebook.shipped
        def care = Core::Tend::Care
        private_class_method :book, :care
      end
    end
  end
end
