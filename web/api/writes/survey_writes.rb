# frozen_string_literal: true

require "base64"

module Vestry
  module Web
    module Api
      class Writes
        # Trees, limbs, bare stretches and their photos.
        class SurveyWrites < Writes
          page "survey"

          post "trees", "Adds trees of a row", form: Contracts::NewTreesForm, answers: %w[trees] do |on, v|
            Deeds::AddTrees.call(on.orchard, Contracts::NewTreesForm.to_row(v, on.orchard), by: on.by)
          end

          put "trees/{id}", "Corrects what is known of a tree; what is left out is not known",
              form: Contracts::TreeFactsForm, answers: "trees" do |on, v|
            Deeds::CorrectTree.call(on.tree, Contracts::TreeFactsForm.to_row(on.reading, on.orchard), by: on.by,
                                    version: v[:version])
          end

          LINES = body(long: { lines: Deeds::LimbLines::MOST }) do
            required(:lines).filled(:string); optional(:sure).filled(:bool)
          end

          post "trees/{id}/lines", "Surveys limbs by limb lines, all of them or none", form: LINES,
                answers: %w[limbs] do |on, v|
            lines = Deeds::LimbLines.new(on.tree, v[:lines])
            bad = lines.judged.reject(&:ok?)
            if bad.any?
              raise Deeds::Refused, lines: bad.map { |read| "line #{read.number}: “#{read.word}” #{read.why}" }
            end
            if lines.rest(sure: v[:sure] == true).any?
              raise Deeds::Refused, sure: lines.doubts.map { |doubt| "#{doubt}: is that so? Then send true" }
            end
            raise Deeds::Refused, lines: ["names no limb"] if lines.reads.empty?

            lines.keep(sure: v[:sure] == true, **on.who)
          end

          post "trees/{id}/limbs", "Surveys one limb", form: Contracts::NewLimbForm, answers: "limbs" do |on, v|
            Deeds::SurveyLimbs.one(on.tree, Contracts::NewLimbForm.to_row(on.reading), sure: v[:thicker_known] == true,
                                   **on.who)
          end

          put "limbs/{id}", "Measures a limb anew; what is left out is not known", form: Contracts::MeasureLimbForm,
                answers: "limbs" do |on, v|
            Deeds::MeasureLimb.call(on.limb, Contracts::MeasureLimbForm.to_row(on.reading), by: on.by,
                                    version: v[:version])
          end

          post "limbs/{id}/events", "Records what happened to a limb", form: Contracts::LimbEventForm,
               answers: "limb_events" do |on, v|
            Deeds::RecordLimbEvent.call(on.limb, Contracts::LimbEventForm.to_row(v), **on.who)
          end

          delete "limb_events/{id}", "Takes back what was recorded of a limb, and what it changed" do |on, _|
            Deeds::TakeBackEvent.call(Records::LimbEvent.of_orchard!(on.orchard, on.id), by: on.by)
          end

          post "trees/{id}/sites", "Marks a bare stretch that could take a graft in its side",
               form: Contracts::NewSiteForm,
                 answers: "sites" do |on, v|
            Deeds::MarkSite.call(on.tree, Contracts::NewSiteForm.to_row(v), by: on.by)
          end

          MOST_PHOTO = Outside::PhotoStore::MOST_BYTES * 4 / 3 + 4096
          PHOTO = body(long: { image: MOST_PHOTO }, columns: { photo: :image }) do
            required(:image).filled(:string)
            optional(:limb).filled(:integer, gt?: 0)
            optional(:visit).filled(:integer, gt?: 0)
            optional(:caption).filled(:string, max_size?: 200)
            optional(:client_key).filled(:string, :uuid_v4?)
          end

          post "trees/{id}/photos", "Keeps a photo, sent as base64 in image", form: PHOTO, answers: "photos",
               most_bytes: MOST_PHOTO do |on, v|
            picture = StringIO.new(Base64.strict_decode64(v[:image].gsub(/\s+/, "")))
            Deeds::KeepPhoto.call(on.tree, picture, limb: v[:limb] && on.orchard.limb!(v[:limb]), visit: v[:visit],
                                  caption: v[:caption], client_key: v[:client_key], **on.who)
          rescue ArgumentError
            raise Deeds::Refused, image: ["is not base64"]
          end
        end
      end
    end
  end
end
