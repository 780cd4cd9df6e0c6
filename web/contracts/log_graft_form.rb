# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # The graft as it was made.
      class LogGraftForm < Form
        lengths stub: "stub", scion: "scion", cut: "cut"
        numbers minutes: "min", sticks: "sticks"

        params do
          required(:grafted_on).filled(Form::DAY)
          required(:technique).filled(:string, included_in?: Core::Rulebook.shipped.stub_methods)
          required(:variety).filled(:integer, gt?: 0)
          required(:stub).filled(:string)
          optional(:scion).filled(:string)
          optional(:cut).filled(:string)
          optional(:faces).filled(:string, max_size?: 60)
          optional(:bundle).filled(:integer, gt?: 0)
          required(:sticks).filled(:integer, gteq?: 1, lteq?: 12)
          required(:grafter).filled(:string, max_size?: 80)
          optional(:wrap).filled(:string, included_in?: Core::Tend::Care.choices("wrap"))
          optional(:seal).filled(:string, included_in?: Core::Tend::Care.choices("seal"))
          optional(:cover).filled(:string, included_in?: Core::Tend::Care.choices("cover"))
          optional(:perch).filled(:bool)
          optional(:brace).filled(:bool)
          optional(:bark_slip).filled(:string, included_in?: %w[clean reluctant none])
          optional(:donor).filled(:string, max_size?: 200)
          optional(:conditions).filled(:string, max_size?: 500)
          optional(:against_reason).filled(:string, max_size?: 500)
          optional(:again).filled(:bool)
          optional(:known_since).filled(Form::DAY)
          # From the stub before, where it was timed.
          optional(:minutes).filled(:float, gteq?: 0.5, lteq?: 480)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        # How it is finished, as far as its kind knows such a thing.
        FINISH = %i[wrap seal cover].freeze

        rule(:technique, *FINISH) do
          (LogGraftForm.finished(values[:technique]) & FINISH).each do |point|
            key(point).failure("is wanted") if values[point].nil?
          end
        end

        class << self
          # The points of practice that are asked for a method.
          def finished(technique) = Core::Graft::GraftKind.finishes(technique).map(&:to_sym)

          # What was not typed is as it was planned.
          #
          # @raise [Deeds::Refused]
          def to_row(reading, limb)
            v = reading.values
            planned = limb.planned
            { **v.slice(:minutes, :bark_slip, :donor, :conditions, :against_reason, :client_key, :again, :known_since),
              **finish(v),
              grafted_on: v[:grafted_on], technique: v[:technique],
              variety_id: named(limb.orchard, :variety, v[:variety]).id, stub_mm: v[:stub],
              stub_typed: reading.typed["stub"].to_s, scion_mm: v[:scion], cut_mm: v[:cut] || planned&.cut_mm,
              sticks: v[:sticks], faces: faces(v, planned), grafter: v[:grafter], brace: v[:brace] || false }
          end

          # Faces as a form shows them.
          def shown(faces) = faces.to_a.map(&:to_i).join(" ")

          private

          def finish(v)
            asked = finished(v[:technique])
            { **FINISH.to_h { |point| [point, (v[point] if asked.include?(point))] },
              perch: (asked.include?(:perch) && v[:perch]) || false }
          end

          # Where each stick sits, in degrees.
          def faces(v, planned)
            return read_faces(v[:faces], v[:sticks]) if v[:faces] && v[:faces] != shown(planned&.faces)

            planned && planned.sticks == v[:sticks] ? planned.faces.map(&:to_f) : []
          end

          def read_faces(typed, count)
            found = typed.split(/[\s,;°]+/).reject(&:empty?).map { |each| Float(each.tr("−", "-"), exception: false) }
            return found if found.empty?
            unless found.all? { |deg| deg&.between?(-180, 360) }
              raise Deeds::Refused, faces: ["degrees, one for each stick, as −45 45"]
            end
            unless found.size == count
              raise Deeds::Refused, faces: ["#{found.size} are typed for #{count} #{count == 1 ? 'stick' : 'sticks'}"]
            end

            found
          end
        end
      end
    end
  end
end
