# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # What is decided for trees, limbs and bare stretches.
        class PlanWrites < Writes
          page "plan"

          post "limbs/{id}/plan", "Decides a limb's role, season, cut, method and variety",
               form: Contracts::PlanLimbForm,
                answers: "plan_limbs" do |on, v|
            Deeds::DecideLimb.call(on.limb, v, by: on.by, version: v[:version], season: on.season)
          end

          post "missed", "Moves every limb that missed its last sensible day to the season that follows" do |on, _|
            moved, to, stuck, behind = Deeds::MoveMissed.call(on.orchard, **on.who)
            { moved: moved, to: to, stay: stuck, moved_on: behind }
          end

          delete "missed", "Moves limbs that were moved so back again" do |on, _|
            { moved: Deeds::MoveMissed.back(on.orchard, by: on.by) }
          end

          post "limbs/{id}/take-over", "Lets a side branch take over from the limb it grows from" do |on, _|
            { top_off_in: Deeds::TakeOver.call(on.limb, by: on.by, first: on.season) }
          end

          post "limbs/{id}/headed", "Notes that a limb was cut long in winter", page: "plan/limbs/1/headed",
               answers: "plan_limbs" do |on, _|
            Deeds::HeadBack.call(on.planned, on: on.today, **on.who)
          end

          delete "limbs/{id}/headed", "Takes back that a limb was cut long in winter", page: "plan/limbs/1/headed",
                 answers: "plan_limbs" do |on, _|
            Deeds::HeadBack.undo(on.planned, by: on.by)
          end

          post "sites/{id}/plan", "Decides that a bare stretch takes a graft, or that it does not",
               form: Contracts::PlanSiteForm, answers: "plan_sites" do |on, v|
            Deeds::DecideSite.call(on.site, v, by: on.by, season: on.season, version: v[:version])
          end

          PACE = body do
            required(:seasons).filled(:integer, gteq?: 1, lteq?: 3); optional(:cap).filled(:float, gt?: 0.0, lteq?: 1.0)
          end

          post "trees/{id}/pace", "Spreads a tree's limbs over so many seasons", form: PACE, answers: "plans" do |on, v|
            Deeds::PaceTree.call(on.tree, v[:seasons], cap: v[:cap], **on.who)
            on.tree.plan
          end

          PURPOSE = body do
            optional(:purpose).filled(:string, max_size?: 200)
            optional(:school).maybe(:string, included_in?: Core::Rulebook.shipped.school_names)
            optional(:reasons).array(:string, included_in?: Records::Plan::REASONS.keys)
            optional(:old_worth).filled(:float, gteq?: 0.0, lteq?: 1.0)
            optional(:new_worth).filled(:float, gteq?: 0.0, lteq?: 1.0)
            optional(:version).filled(:integer)
          end

          put "trees/{id}/plan", "Says what a tree's plan is for, and by which school: null for the orchard's",
              form: PURPOSE, answers: "plans" do |on, v|
            Deeds::NamePlan.call(on.tree, purpose: v[:purpose], school: (v[:school].to_s if v.key?(:school)), by: on.by,
                                 reasons: v[:reasons], worths: v.slice(:old_worth, :new_worth),
                                 version: v[:version])
          end

          post "trees/{id}/versions/again", "Takes an earlier version of a tree's plan up again, as a new one",
               form: body { required(:plan).filled(:integer, gt?: 0) }, answers: "plans" do |on, v|
            Deeds::NewVersion.again(on.tree, Records::Plan.of_orchard!(on.orchard, v[:plan]), by: on.by)
          end

          post "trees/{id}/versions", "Begins a new version of a tree's plan; the old one is kept",
               form: body { optional(:why).filled(:string, max_size?: 200) }, answers: "plans" do |on, v|
            Deeds::NewVersion.call(on.tree, by: on.by, why: v[:why])
          end

          post "patterns/{id}/back", "Takes the planning of whole rows back; what was changed since stays" do |on|
            { stay: Deeds::UndoPattern.call(on.orchard.pattern!(on.id), by: on.by) }
          end

          post "patterns", "Plans whole rows in the background", form: Contracts::PatternForm do |on, v|
            Deeds::LayPattern.begin(on.orchard, v.slice(:variety, :school, :seasons, :purpose, :replace),
                                    Contracts::PatternForm.chosen(on.orchard, v), client_key: v[:client_key],
                                    **on.who).then { |pattern| { pattern: pattern.id, trees: pattern.tree_ids.size } }
          end
        end
      end
    end
  end
end
