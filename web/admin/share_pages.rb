# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # A tree on one page of paper, and its address for someone who does not sign in.
      class SharePages < Base
        helpers do
          def show(tree, errors: {}, link: nil)
            erb :"survey/share", locals: { tree: tree, links: Records::TreeLink.open(tree, today), errors: errors,
                                           link: link }
          end
        end

        get("/trees/:id") { show(orchard.tree!(params["id"])) }

        get "/trees/:id/card.pdf" do
          tree = orchard.tree!(params["id"])
          content_type "application/pdf"
          attachment "#{tree.label}.pdf", :inline
          tree_card_pdf(tree, address: Settings.address && outside_address("/t/#{tree.code}"))
        end

        post "/trees/:id" do
          tree = orchard.tree!(params["id"])
          attempt(->(e) { show(tree, errors: e.errors) }) do
            password_again(to("share", "/trees/#{tree.id}"))
            outside_address("/")
            token = Deeds::ShareTree.call(tree, for_whom: params["for_whom"].to_s, days: params["days"].to_s, by: actor,
                                                today: today)
            show(tree, link: outside_address("/tree/#{token}"))
          end
        end

        post "/trees/:id/revoke" do
          tree = orchard.tree!(params["id"])
          Deeds::ShareTree.revoke(tree, params["link"], by: actor)
          notice "That address opens nothing any more."
          redirect to("share", "/trees/#{tree.id}")
        end
      end
    end
  end
end
