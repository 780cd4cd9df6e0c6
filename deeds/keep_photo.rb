# frozen_string_literal: true

module Vestry
  module Deeds
    # Keeps a photo of a tree, a limb or a visit.
    module KeepPhoto
      LONGEST_CAPTION = 200

      # @param file [IO, nil] as uploaded
      # @raise [Refused] when it is not a photo
      def self.call(tree, file, by:, today:, limb: nil, visit: nil, caption: nil, client_key: nil)
        raise Refused, photo: ["Choose a photo first."] unless file
        raise Refused, photo: ["That limb is not on this tree."] if limb && limb.tree_id != tree.id

        if visit && !(limb && limb.grafts.any? { |graft| graft.visits.any? { |each| each.id == visit } })
          raise Refused, photo: ["That visit was not to this limb."]
        end

        caption = caption.to_s.strip
        if caption.length > LONGEST_CAPTION || caption.match?(/[[:cntrl:]]/)
          raise Refused, caption: ["is one line of at most #{LONGEST_CAPTION} characters"]
        end

        key = client_key.to_s.match?(/\A[0-9a-f-]{36}\z/) ? client_key : nil
        same = Records::Photo.sent_as(tree.orchard_id, key)
        return same if same

        image = Outside::PhotoStore.keep(file)
        Ledger.add(Records::Photo, { orchard_id: tree.orchard_id, tree_id: tree.id, limb_id: limb&.id,
                                     observation_id: visit, caption: (caption unless caption.empty?),
                                     taken_on: today, image: image, by: by, client_key: key }, by: by)
      rescue Outside::PhotoStore::NotAPicture => e
        raise Refused, photo: ["The file #{e.message}."]
      end
    end
  end
end
