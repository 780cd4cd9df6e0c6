# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # The find box: a tree, a limb, a row, a bundle, a variety, a person's grafts, a method, a setting, however it is
      # spelled.
      class FindPages < Base
        get "/" do
          words = query[:q].to_s
          near = query.key?(:lat) && query.key?(:lon) ?
            Records::Places.nearest(orchard, *query.values_at(:lat, :lon)) : nil
          found = Records::Finder.new(orchard).find(words)
          redirect to("survey", "/trees/#{found.limb.tree_id}?limb=#{found.limb.id}") if found.limb
          redirect to("wood", "/bundles/#{found.bundle.id}") if found.bundle
          if found.tree
            notice "#{found.tree.label} has no limb #{found.lacking.upcase}." if found.lacking
            redirect to("survey", "/trees/#{found.tree.id}")
          end
          erb :"find/found", locals: { words: words, found: found, places: FindPlaces.of(words), near: near }
        end
      end
    end
  end
end
