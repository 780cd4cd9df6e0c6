# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # The find box: a tree, a limb, a variety, a person's grafts, however it is spelled.
      class FindPages < Base
        get "/" do
          words = query[:q].to_s
          found = Records::Finder.new(orchard).find(words)
          redirect to("survey", "/trees/#{found.limb.tree_id}?limb=#{found.limb.id}") if found.limb
          redirect to("survey", "/trees/#{found.tree.id}") if found.tree
          erb :"find/found", locals: { words: words, found: found }
        end
      end
    end
  end
end
